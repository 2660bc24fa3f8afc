import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { pixelsOf } from './pixels.ts'
import { deviationOf, merged, summaryOf } from './summary.ts'
import { series, T0 } from './test/series.ts'

describe('summaries', () => {
  test('two merged are the whole', () => {
    const [a, b] = [summaryOf([50.1, 50.3, 49.8]), summaryOf([51, 50.6])]
    expect(a?.mean).toBeCloseTo(50.06667, 5)
    expect(a?.m2).toBeCloseTo(0.1266667, 7)
    expect(b?.m2).toBeCloseTo(0.08, 9)
    expect(a && b && merged(a, b)).toEqual({
      count: 5,
      min: 49.8,
      max: 51,
      mean: expect.closeTo(50.36, 9) as number,
      m2: expect.closeTo(0.852, 9) as number,
    })
  })
  test('at a level of a thousand million the scatter of 2 is right to ten digits', () => {
    const part = (n: number) => summaryOf(Array.from({ length: n }, (_, i) => 1e9 + (i % 2 === 0 ? 2 : -2)))
    const [a, b] = [part(64), part(4032)]
    expect(a && b && deviationOf(merged(a, b)) ** 2).toBeCloseTo((4 * 4096) / 4095, 9)
  })
  test('in any grouping the same', () => {
    const numbers = fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), {
      minLength: 3,
      maxLength: 400,
    })
    fc.assert(
      fc.property(numbers, fc.integer({ min: 1, max: 398 }), (v, cut) => {
        const at = Math.min(cut, v.length - 1)
        const [a, b, whole] = [summaryOf(v.slice(0, at)), summaryOf(v.slice(at)), summaryOf(v)]
        const both = a && b && merged(a, b)
        expect(both).toMatchObject({ count: whole?.count, min: whole?.min, max: whole?.max })
        expect(Math.abs((both?.m2 ?? 0) - (whole?.m2 ?? 0))).toBeLessThanOrEqual(
          1e-9 * ((whole?.m2 ?? 0) + 1),
        )
      }),
    )
  })
})

describe('pixels', () => {
  const L1 = series({ n: 240, level: 50, sd: 0.4, phi: 0.6, g: 0.001 })
  test('the worked view', () => {
    const told = pixelsOf(L1.t, L1.v, T0, T0 + 239_000, 4)
    expect(told.map((p) => [p.min, p.max, Number(p.mean?.toFixed(5)), p.count])).toEqual([
      [48.988, 50.689, 49.84477, 60],
      [49.186, 50.825, 50.12097, 60],
      [49.206, 50.895, 50.10467, 60],
      [49.53, 50.602, 50.06948, 60],
    ])
  })
  test('a pixel without samples is empty, nulls belong to none, the end belongs to the last', () => {
    const told = pixelsOf([0, 1, 2, 10], [5, null, 6, 7], 0, 10, 5)
    expect(told.map((p) => p.count)).toEqual([1, 1, 0, 0, 1])
    expect(told[2]).toEqual({ min: null, max: null, mean: null, count: 0 })
  })
})
