import { expect, describe, test } from 'vitest'
import { convert } from './units.ts'

const to = (value: number, from: string, unit: string, p_baro?: number) => {
  const r = convert(value, from, unit, p_baro)
  return r.kind === 'value' ? r.value : NaN
}

describe('units of the worked examples', () => {
  const rows: readonly [
    why: string,
    value: number,
    from: string,
    to: string,
    expected: number,
    digits: number,
  ][] = [
    ['1 conventional', 35, 'inH2O@conv', 'kPa', 8.718112, 6],
    ['1 at 4 °C', 35, 'inH2O@4C', 'kPa', 8.717894, 6],
    ['1 at 60 °F', 35, 'inH2O@60F', 'kPa', 8.709542, 6],
    ['1 at 68 °F', 35, 'inH2O@68F', 'kPa', 8.70248, 6],
    ['2 US gallons', 250, 'USgal/min', 'm3/h', 56.781177, 6],
    ['2 litres', 250, 'USgal/min', 'L/s', 15.77255, 5],
    ['2 imperial gallons', 250, 'USgal/min', 'impgal/min', 208.16855, 5],
    ['2 normal', 120, 'scf/min', 'Nm3/h', 192.8961, 5],
    ['2 standard', 120, 'scf/min', 'Sm3/h', 203.48897, 5],
  ]
  test.each(rows)('%s: %d %s is %s', (_why, value, from, unit, expected, digits) =>
    expect(to(value, from, unit)).toBeCloseTo(expected, digits),
  )
  test('3 gauge to absolute with the barometer of the day', () => {
    expect(to(6.2, 'bar(g)', 'kPa(a)', 99_100)).toBeCloseTo(719.1, 9)
    expect(to(6.2, 'bar(g)', 'psi(a)', 99_100)).toBeCloseTo(104.29664, 5)
  })
})
