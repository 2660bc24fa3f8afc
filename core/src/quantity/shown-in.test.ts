import { describe, expect, test } from 'vitest'
import { shownIn, valueIn } from './shown-in.ts'

describe('entries in the loop’s unit', () => {
  test.each<[string, string | null, string]>([
    ['kPa', 'bar', 'bar'],
    ['kPa', 'bar(g)', 'bar'],
    ['kPa', 'psi(a)', 'psi'],
    ['kPa', 'inH2O@60F', 'inH2O@60F'],
    ['degC', 'degF', 'degF'],
    ['m3/h', 'USgal/min', 'USgal/min'],
    ['kg/h', 'lb/h', 'lb/h'],
    ['kPa', 'm3/h', 'kPa'],
    ['kPa', null, 'kPa'],
    ['mm', 'm', 'mm'],
    ['', 'bar', ''],
  ])('%s on a loop in %s is shown in %s', (unit, loop, as) => expect(shownIn(unit, loop)).toBe(as))
  test.each([
    [100, 'kPa', 'bar', 1],
    [103.421359397, 'kPa', 'psi', 15],
    [37.7777777778, 'degC', 'degF', 100],
    [22.71247068, 'm3/h', 'USgal/min', 100],
    [7, 'kPa', 'kPa', 7],
  ])('%d %s is in %s %d', (value, from, to, is) => {
    expect(valueIn(value, from, to)).toBeCloseTo(is, 6)
    expect(valueIn(valueIn(value, from, to), to, from)).toBeCloseTo(value, 8)
  })
})
