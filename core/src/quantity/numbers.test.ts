import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { parseNumber } from './parse-number.ts'
import { parseQuantity } from './parse-quantity.ts'
import { roundText, sayNumber, withUncertainty } from './round.ts'

describe('numbers as technicians type them', () => {
  const rows: readonly [why: string, typed: string, value: number, rest: string][] = [
    ['decimal point', '1.5', 1.5, ''],
    ['decimal comma', '1,5', 1.5, ''],
    ['one comma is never thousands', '1,234', 1.234, ''],
    ['both signs, comma last', '1.234,5', 1234.5, ''],
    ['both signs, point last', '1,234.5', 1234.5, ''],
    ['groups only', '1,234,567', 1234567, ''],
    ['spaces group', '62 000', 62000, ''],
    ['a real minus sign', '−15', -15, ''],
    ['unit behind', '4,02 mA', 4.02, 'mA'],
    ['unit stuck on', '21.38bar', 21.38, 'bar'],
    ['unit beginning with e', '5 emu', 5, 'emu'],
    ['exponent', '1e3', 1000, ''],
    ['leading point', '.5', 0.5, ''],
    ['trailing comma', '5,', 5, ''],
  ]
  test.each(rows)('%s: “%s”', (_why, typed, v, rest) => {
    expect(parseNumber(typed)).toMatchObject({ kind: 'number', value: v, rest })
  })
  test('the doubtful comma is told', () => {
    expect(parseNumber('1,234')).toHaveProperty('doubt')
    expect(parseNumber('0,234')).not.toHaveProperty('doubt')
  })
  test.each([
    'abc',
    '1.2.3',
    '1,2,3',
    '1,23.4.5',
    '--1',
    '1e400',
    '9e99',
    'NaN',
    'Infinity',
    '12 34',
    '1..2',
  ])('“%s” is refused in a sentence', (typed) => {
    const r = parseNumber(typed)
    expect(r.kind).toBe('refused')
    expect(r.kind === 'refused' && r.says).toMatch(/\.$/)
  })
  test.each(['', '   ', '\u00a0'])('nothing typed is empty, not zero', (typed) => {
    expect(parseNumber(typed)).toEqual({ kind: 'empty' })
  })
  test('whatever is typed gives a finite number or a sentence', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 30 }), (typed) => {
        const r = parseNumber(typed)
        expect(r.kind !== 'number' || Number.isFinite(r.value)).toBe(true)
      }),
    )
  })
  test('a printed number is read back the same, with point or comma', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (v) => {
        const text = roundText(v, 6)
        expect(parseNumber(text)).toMatchObject({ value: Number(text) })
        expect(parseNumber(text.replace('.', ','))).toMatchObject({ value: Number(text) })
      }),
    )
  })
})

describe('numbers for a place that has a unit', () => {
  const rows: readonly [why: string, typed: string, unit: string | null, gives: object][] = [
    ['the place’s own unit', '1,5 bar g', 'bar(g)', { kind: 'value', value: 1.5, converted: false }],
    ['another of the same kind', '150 kPa', 'bar(g)', { kind: 'value', value: 1.5, converted: true }],
    ['a temperature point', '212 °F', 'degC', { kind: 'value', converted: true }],
    ['nothing', ' ', 'bar(g)', { kind: 'empty' }],
    [
      'another dimension',
      '3 m',
      'bar(g)',
      { kind: 'refused', says: '“m” cannot be turned into bar g. Type the number in bar g.' },
    ],
    ['a unit nobody knows', '3 stones', 'kg', { kind: 'refused' }],
    [
      'a unit where none belongs',
      '12 h',
      null,
      { kind: 'refused', says: '“h” does not belong to this number.' },
    ],
    ['no number', 'x', 'bar(g)', { kind: 'refused' }],
  ]
  test.each(rows)('%s: “%s” for %s', (_why, typed, unit, gives) => {
    expect(parseQuantity(typed, unit)).toMatchObject(gives)
  })
})

describe('rounding', () => {
  const rows: readonly [v: number, decimals: number, text: string][] = [
    [1.005, 2, '1.01'],
    [-2.5, 0, '-3'],
    [0.1004, 2, '0.10'],
    [1e-7, 3, '0.000'],
    [-0.0001, 2, '0.00'],
    [9.995, 2, '10.00'],
    [1.5e21, 0, '1500000000000000000000'],
    [1.25e-5, 6, '0.000013'],
  ]
  test.each(rows)('%d to %d decimals is %s', (v, decimals, text) => {
    expect(roundText(v, decimals)).toBe(text)
  })
  test('a result carries two digits of its uncertainty', () => {
    expect(withUncertainty(50.08338, 0.01247)).toEqual({ value: '50.083', uncertainty: '0.012' })
    expect(withUncertainty(1.2345, 0.0996)).toEqual({ value: '1.23', uncertainty: '0.10' })
  })
  test('numbers in sentences have no trailing zeros and no exponent', () => {
    expect([85, 0.22, 27648, 1e-9, 4.02].map((v) => sayNumber(v))).toEqual([
      '85',
      '0.22',
      '27648',
      '0.000000001',
      '4.02',
    ])
  })
})
