import { describe, expect, test } from 'vitest'
import { defaultPath } from '../../loop/default-path.ts'
import { loopScale } from '../../verify/reading-errors.ts'
import { loopDrift, riskAfter } from '../loop-drift.ts'
import { certificatesOf, joinedPast, pastOfEntered } from './certificates.ts'
import { readDay } from './read-day.ts'
import { readPast, suggestPast } from './read-past.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
if (!scale) throw new Error('no scale')
const T = { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 } as const
const read = (text: string, tag: string | null = 'PT-1') => {
  const records = text
    .trim()
    .split('\n')
    .map((l) => l.split(';').map((c) => c.trim()))
  const { rows, wrong } = readPast(records, suggestPast(records[0] ?? []), tag)
  const of = certificatesOf(rows, scale, T, '2026-11-29')
  return { certificates: of.certificates, wrong: [...wrong, ...of.wrong] }
}

describe('days as certificates have them', () => {
  const rows: readonly [text: string, told: RegExp][] = [
    ['2019-03-12', /^2019-03-12$/],
    ['2019/3/2', /^2019-03-02$/],
    ['12.03.2019', /^2019-03-12$/],
    ['12 Mar 2019', /^2019-03-12$/],
    ['March 12, 2019', /^2019-03-12$/],
    ['23/04/2019', /^2019-04-23$/],
    ['04/23/2019', /^2019-04-23$/],
    ['05/05/2019', /^2019-05-05$/],
    ['04/05/2019', /can be two days/],
    ['2019-02-30', /not a date of the calendar/],
    ['31.04.2019', /not a date/],
    ['last spring', /not a date/],
    ['0012-01-01', /not a date/],
  ]
  test.each(rows)('%s', (text, told) => {
    const d = readDay(text)
    expect('day' in d ? d.day : d.says).toMatch(told)
  })
})

describe('a table of earlier certificates', () => {
  test('readings in bar become errors in percent of span; head data stand in the first row of a paper', () => {
    const r = read(`
Date; Certificate; By; Applied [bar]; As found; As left
2019-03-12; C-17; lab; 0; 0.2; 0.0
; ; ; 40; 40.2; 40.0
; ; ; 80; 80.4; 80.08
2020-03-10; C-31; lab; 0; 0.1;
; ; ; 80; 80.16;`)
    expect(r.wrong).toEqual([])
    expect(r.certificates.map((c) => [c.on, c.number, c.by])).toEqual([
      ['2019-03-12', 'C-17', 'lab'],
      ['2020-03-10', 'C-31', 'lab'],
    ])
    const [first, second] = r.certificates
    expect(first?.found.map(([l]) => l)).toEqual([0, 50, 100])
    ;[0.25, 0.25, 0.5].forEach((e, i) => expect(first?.found[i]?.[1]).toBeCloseTo(e, 9))
    ;[0, 0, 0.1].forEach((e, i) => expect(first?.left?.[i]?.[1]).toBeCloseTo(e, 9))
    // Nothing as left: nothing was adjusted.
    expect(second?.left).toBeNull()
  })
  test('currents, kilopascal, percent of range and plain errors say the same', () => {
    const error = (text: string) => read(text).certificates[0]?.found[0]?.[1]
    expect(error('Date; Applied [bar]; As found (mA)\n2019-03-12; 40; 12.04')).toBeCloseTo(0.25, 9)
    expect(error('Date; Applied [kPa]; As found [kPa]\n2019-03-12; 4000; 4020')).toBeCloseTo(0.25, 9)
    expect(error('Date; Point %; As found [bar]\n2019-03-12; 50; 40.2')).toBeCloseTo(0.25, 9)
    expect(error('Date; Level [%]; Error as found %\n2019-03-12; 50; 0,25')).toBeCloseTo(0.25, 9)
  })
  test('a reading without a unit is in that of what was applied, whatever the controller shows', () => {
    const kPa = loopScale(
      defaultPath({
        transmitter: range,
        squareRoot: false,
        receiver: { low: 0, high: 8000, unit: 'kPa(g)' },
      }),
    )
    if (!kPa) throw new Error('no scale')
    const rows = readPast(
      [
        ['Date', 'Applied [bar]', 'As found'],
        ['2019-03-12', '40', '40.2'],
      ],
      suggestPast(['Date', 'Applied [bar]', 'As found']),
      'PT-1',
    ).rows
    expect(certificatesOf(rows, kPa, T, '2026-11-29').certificates[0]?.found[0]?.[1]).toBeCloseTo(0.25, 9)
  })
  const broken: readonly [why: string, text: string, says: RegExp][] = [
    ['a day that is none', 'Date; Applied; As found\n2019-02-31; 0; 0', /not a date/],
    ['a day to come', 'Date; Applied; As found\n2031-02-01; 0; 0', /still to come/],
    ['no number', 'Date; Applied; As found\n2019-02-01; 0; o.1', /not a number/],
    ['a unit of another kind', 'Date; Applied; As found\n2019-02-01; 0 m3/h; 0', /cannot be turned into bar/],
    ['psi typed as bar', 'Date; Applied; As found\n2019-02-01; 40; 580', /off by 675 % of span/],
    ['no column of dates', 'When; Applied; As found\n2019-02-01; 0; 0', /No column holds the date/],
    [
      'as left at one point only',
      'Date; Applied; As found; As left\n2019-02-01; 0; 0; 0\n; 80; 80;',
      /As left stands at some points only/,
    ],
    ['nothing found', 'Date; Applied; As found\n2019-02-01; 0;', /What was found is not told/],
  ]
  test.each(broken)('%s holds its paper back', (_why, text, says) => {
    const r = read(text)
    expect(r.certificates).toEqual([])
    expect(r.wrong.map((w) => w.says).join(' ')).toMatch(says)
  })
  test('one wrong paper does not hold the others back', () => {
    const r = read('Date; Applied; As found\n2019-02-01; 0; x\n2020-02-01; 0; 0.1')
    expect(r.certificates.map((c) => c.on)).toEqual(['2020-02-01'])
    expect(r.wrong).toHaveLength(1)
  })
})

describe('ten years of old papers judged', () => {
  const years = Array.from({ length: 10 }, (_, i) => 2016 + i)
  /** It rises by 0.04 % a year and was put back to 0 in 2021. */
  const found = (y: number) => (y <= 2021 ? 0.04 * (y - 2015) : 0.04 * (y - 2021)) + (y % 2 ? 0.004 : -0.004)
  const entered = pastOfEntered([
    {
      revision: 1,
      tolerance_pct: 0.25,
      source: '',
      certificates: years.map((y) => ({
        on: `${y}-05-01`,
        number: `C-${y}`,
        by: '',
        found: [[50, found(y)] as const],
        left: y === 2021 ? ([[50, 0]] as const) : null,
      })),
    },
  ])
  test('the drift is told without the adjustment in its middle', () => {
    const d = loopDrift(entered, 12)
    expect(d?.verifications).toBe(10)
    const rate = d?.drift.enough ? d.drift.rate * 365.25 : NaN
    expect(rate).toBeCloseTo(0.04, 2)
    expect(d?.drift).toMatchObject({ enough: true, significant: true, periods: 9 })
  })
  test('the chance of finding it out grows with the interval', () => {
    const d = loopDrift(entered, 12)
    if (!d) throw new Error('no drift')
    const risks = [1, 12, 24, 60].map((m) => riskAfter(d, m) ?? NaN)
    expect(risks).toEqual([...risks].sort((a, b) => a - b))
    expect(risks[0]).toBeLessThan(0.01)
    expect(risks[3]).toBeGreaterThan(0.9)
  })
  test('a paper entered again replaces; verifications here follow in time', () => {
    const one = { on: '2016-05-01', number: 'C-1', by: '', left: null }
    const twice = pastOfEntered([
      { revision: 1, tolerance_pct: 0.5, source: '', certificates: [{ ...one, found: [[0, 5]] }] },
      { revision: 1, tolerance_pct: 0.5, source: '', certificates: [{ ...one, found: [[0, 0.1]] }] },
    ])
    expect(twice).toHaveLength(1)
    expect(twice[0]?.used).toBeCloseTo(0.2, 12)
    const here = { at: '2015-01-01T10:00:00.000Z', found: [], left: [], T_pct: 0.5, used: 0 }
    expect(joinedPast([here], twice).map((p) => p.entered === true)).toEqual([false, true])
  })
})
