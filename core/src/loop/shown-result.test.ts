import { describe, expect, test } from 'vitest'
import { NOT_AT_WORK } from '../family/family.ts'
import { familyOf } from '../family/index.ts'
import { askedIn, PLANT_UNITS } from '../quantity/asked-in.ts'
import { saidIn, shownIn, valueIn } from '../quantity/shown-in.ts'
import { settingProblem, number } from '../quantity/setting.ts'
import { findUnit, printedUnit } from '../quantity/units.ts'
import { shownResult } from './shown-result.ts'

const resultOf = (id: string, values: Record<string, number | string>) => {
  const result = familyOf(id)?.compute(values, NOT_AT_WORK)
  if (!result) throw new Error(`no ${id}`)
  return result
}
const TANK = { shape: 'vertical', diameter_m: 2, shell_m: 2.5 }

describe('a result in the units of the loop and of the plant', () => {
  const told = (id: string, values: Record<string, number | string>, loop: string | null, plant: object) =>
    Object.fromEntries(
      shownResult(resultOf(id, values), loop, { ...plant }).rows.map((r) => [
        r.label,
        `${r.value} ${r.unit ?? ''}`,
      ]),
    )
  test('a span of 150 °C is one of 270 °F, and a tolerance has no zero either', () => {
    const rows = told('temperature', { low_C: 0, high_C: 150 }, 'degF', {})
    // IEC 60751, class B at 150 °C: 0.3 + 0.005 · 150 = 1.05 K.
    expect(rows).toMatchObject({ Span: '270 °F', 'Class B at the end of the range': '1.89 °F' })
    expect(rows['Leads add at the top']).not.toMatch(/3\d\.\d+ °F/)
  })
  test('by the wish of the plant where the loop has another kind of unit', () => {
    expect(told('temperature', { low_C: 0, high_C: 150 }, null, { degC: 'degF' })['Span']).toBe('270 °F')
    expect(told('temperature', { low_C: 0, high_C: 150 }, 'degC', { degC: 'degF' })['Span']).toBe('150 °C')
  })
  test('a tank of 7.853982 m³ is one of 7854 L, in rows, tables and the curve', () => {
    const own = resultOf('guided-wave', TANK)
    const litres = shownResult(own, 'm', { m3: 'L', m: 'ft' })
    const [before, after] = [own, litres].map((r) => r.tables?.find((t) => t.title.startsWith('Level')))
    expect(before?.columns).toEqual(['level, %', 'level, m', 'volume, m³', 'mass, t'])
    expect(after?.columns).toEqual(['level, %', 'level, ft', 'volume, L', 'mass, t'])
    const volume = (t: typeof before) => Number(t?.rows.at(-1)?.[2])
    expect(volume(after)).toBeCloseTo(1000 * volume(before), 2)
    const chart = (r: typeof own) => r.charts?.find((c) => c.title === 'Volume over level')
    expect(chart(litres)?.y.unit).toBe('L')
    expect(chart(litres)?.series[0]?.points.at(-1)?.[1]).toBeCloseTo(
      1000 * (chart(own)?.series[0]?.points.at(-1)?.[1] ?? NaN),
      6,
    )
    expect(chart(litres)?.x).toEqual(chart(own)?.x)
  })
  test('nothing that has no unit, or whose unit nobody wants otherwise, is touched', () => {
    for (const id of ['clamp-on', 'coriolis', 'orifice', 'pressure', 'ph', 'thermal', 'level-from-above']) {
      const own = resultOf(id, {})
      const same = shownResult(own, null, {})
      expect(same.rows.map((r) => r.value)).toEqual(own.rows.map((r) => r.value))
      expect(same.tables).toEqual(own.tables)
      expect(same.charts).toEqual(own.charts)
    }
  })
})

describe('units that a plant may want', () => {
  test.each(PLANT_UNITS)('$of: $unit', ({ unit }) => {
    for (const as of askedIn(unit)) {
      expect(findUnit(printedUnit(as))?.symbol, as).toBe(as)
      expect(shownIn(unit, null, { [unit]: as })).toBe(as)
      expect(valueIn(valueIn(12.75, unit, as), as, unit)).toBeCloseTo(12.75, 8)
    }
  })
  test('one of another kind is no wish', () => expect(shownIn('mm', null, { mm: 'psi' })).toBe('mm'))
})

describe('a refused entry speaks in the unit in which it is shown', () => {
  const od = number('od_mm', 'Outside diameter', 'mm', 100, 10, 2540)
  test.each<[string, string]>([
    ['mm', 'Outside diameter is 5080 mm; possible is 10 to 2540 mm.'],
    ['in', 'Outside diameter is 200 in; possible is 0.393701 to 100 in.'],
  ])('%s', (unit, says) => expect(settingProblem(od, 5080, saidIn('mm', unit))).toBe(says))
})
