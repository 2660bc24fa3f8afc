import { describe, expect, test } from 'vitest'
import { odSlips } from './od-slips.ts'
import { namedPipe, PIPE_MAKES, sizesOf, type PipeMake } from './other-pipes.ts'
import { PIPE_SIZES } from './pipe-sizes-table.ts'

const STEEL = [...new Set(PIPE_SIZES.flatMap((p) => p.schedules.map(([, od]) => od)))]

describe('an outside diameter that is none', () => {
  test.each<[number, string, number]>([
    [1916.4, 'OD_IS_CIRCUMFERENCE', 610],
    [528.7, 'OD_IS_CIRCUMFERENCE', 168.3],
    [12.75, 'OD_IS_INCH', 323.8],
    [6.625, 'OD_IS_INCH', 168.3],
    [32.38, 'OD_IS_CM', 323.8],
  ])('%s mm: %s, %s mm', (typed, code, od) => {
    const slip = odSlips(typed).find((x) => x.code === code)
    expect(Math.abs((slip?.od_mm ?? 0) / od - 1)).toBeLessThan(0.005)
  })
  test('a pipe’s own diameter is never doubted, and one that was taped neither', () => {
    const named = (Object.keys(PIPE_MAKES) as PipeMake[]).flatMap((make) =>
      sizesOf(make).map((size) => namedPipe(make, size, {}).od_mm ?? 0),
    )
    for (const od of [...STEEL, ...named])
      for (const taped of [1, 0.996, 1.004]) expect(odSlips(od * taped), `${od * taped}`).toEqual([])
  })
  test('one that is a pipe’s as well is doubted by its flow, and only then', () => {
    // The circumference of a 12 inch pipe is the diameter of a 40 inch one.
    expect(odSlips(1017.3)).toEqual([])
    expect(odSlips(1017.3, { v_m_s: 0.18, fluid: 'liquid' })[0]).toMatchObject({
      code: 'OD_IS_CIRCUMFERENCE',
    })
    expect(odSlips(1017.3, { v_m_s: 1.6, fluid: 'liquid' })).toEqual([])
    expect(odSlips(1017.3, { v_m_s: 12, fluid: 'gas' })).toEqual([])
  })
  test('with a flow as pipes are built for, nineteen of twenty circumferences of steel pipes are told', () => {
    const told = STEEL.filter((od) =>
      odSlips(Number((od * Math.PI).toFixed(1)), { v_m_s: 1.8 / Math.PI ** 2, fluid: 'liquid' }).some(
        (x) => x.code === 'OD_IS_CIRCUMFERENCE',
      ),
    )
    expect(told.length / STEEL.length).toBeGreaterThanOrEqual(0.95)
  })
})
