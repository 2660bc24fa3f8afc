import { describe, expect, test } from 'vitest'
import { namedPlan } from './plan.ts'
import { readColumn, readReadings, suggestReadings } from './read-readings.ts'

const units = { input: 'bar(g)', output: 'bar(g)' }
const HEAD = [
  'point',
  'direction',
  'applied',
  'applied_unit',
  'pv',
  'loop_mA',
  'controller',
  'controller_unit',
]

describe('a table of readings', () => {
  test('is matched to its plan and converted to the loop’s units, as typed kept', () => {
    const r = readReadings(
      [
        HEAD,
        ['1', 'up', '0', 'bar', '0,12', '4.024', '13', 'kPa'],
        ['2', 'up', '42.5', 'bar', '', '', '', ''],
        ['3', 'up', '85', 'bar', 'x', '20,04', '', ''],
      ],
      units,
      namedPlan('P3'),
    )
    expect(r.rows[0]?.values.pv).toEqual({ value: 0.12, typed: '0,12' })
    expect(r.rows[0]?.values.controller?.value).toBeCloseTo(0.13, 12)
    expect(r.rows[0]?.values.controller?.typed).toBe('13 kPa')
    expect(r.rows[1]?.values).toEqual({ applied: { value: 42.5, typed: '42.5' } })
    expect(r.findings).toHaveLength(1)
    expect(r.findings[0]?.says).toMatch(/^Row 4, pv: “x” is not a number/)
  })
  const broken: readonly [why: string, records: string[][], code: string][] = [
    ['no heading', [['1', '2']], 'NO_APPLIED'],
    ['rows that fit no plan', [HEAD, ['1', 'up', '0']], 'NO_PLAN'],
    ['the wrong direction', [HEAD, ['1', 'up', '0'], ['2', 'down', '50'], ['3', 'up', '100']], 'NO_PLAN'],
    ['a unit of another kind', [HEAD, ['1', 'up', '0', 'm3/h'], ['2', 'up', '1'], ['3', 'up', '2']], 'UNIT'],
  ]
  test.each(broken)('%s is said', (_why, records, code) => {
    expect(readReadings(records, units, namedPlan('P3')).findings.map((f) => f.code)).toContain(code)
  })
})

describe('columns of anybody’s table', () => {
  const headings: readonly [heading: string, column: string | null][] = [
    ['Applied [kPa]', 'applied'],
    ['Reference value', 'applied'],
    ['Loop (mA)', 'loopCurrent_mA'],
    ['Current in mA', 'loopCurrent_mA'],
    ['DCS, bar', 'controller'],
    ['Transmitter reading', 'pv'],
    ['Up/Down', 'direction'],
    ['Remarks', null],
  ]
  test.each(headings)('%s holds %s', (heading, column) =>
    expect(suggestReadings([heading])).toEqual([column]),
  )
  test('a unit in the heading is the unit of the column; one in the cell goes before it', () => {
    const r = readReadings(
      [
        ['Applied [kPa]', 'Loop (mA)'],
        ['0', '4'],
        ['250', '8.01'],
        ['5 bar', '12.02'],
      ],
      units,
      namedPlan('P3'),
    )
    expect(r.findings).toEqual([])
    expect(r.rows.map((x) => x.values.applied)).toEqual([
      { value: 0, typed: '0' },
      { value: 2.5, typed: '250 kPa' },
      { value: 5, typed: '5 bar' },
    ])
  })
  test('a person says what a column holds; two that hold the same are refused', () => {
    const table = [
      ['a', 'b'],
      ['0', '4'],
      ['40', '12'],
      ['80', '20'],
    ]
    const r = readReadings(table, units, namedPlan('P3'), ['applied', 'loopCurrent_mA'])
    expect(r.rows.map((x) => x.values.loopCurrent_mA?.value)).toEqual([4, 12, 20])
    expect(readReadings(table, units, namedPlan('P3')).findings.map((f) => f.code)).toEqual(['NO_APPLIED'])
    expect(
      readReadings(table, units, namedPlan('P3'), ['applied', 'applied']).findings.map((f) => f.code),
    ).toEqual(['COLUMN_TWICE'])
  })
})

describe('a pasted column', () => {
  test('one number a line, gaps kept', () => {
    expect(readColumn('4,024\r\n8.025\n\n16,034\n').values.map((v) => v?.value ?? null)).toEqual([
      4.024,
      8.025,
      null,
      16.034,
    ])
  })
  test('names the line that is no number and takes nothing', () => {
    expect(readColumn('1\ntwo\n3')).toMatchObject({
      values: [],
      says: expect.stringMatching(/^Line 2/) as string,
    })
  })
})
