import { describe, expect, test } from 'vitest'
import { defaultPath } from '../../loop/default-path.ts'
import { Generator } from '../../statistics/generator.ts'
import { quickAsFound, type QuickRow, type QuickTask } from './quick.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const stages = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
const T = { mode: 'max', pctSpan: 0.5, pctReading: 0, abs: 0 } as const
const IDEAL = [4, 8, 12, 16, 20]
const only = (
  mA: readonly (number | null)[],
  more: (i: number) => Partial<QuickRow> = () => ({}),
): QuickRow[] => mA.map((loopCurrent_mA, i) => ({ pv: null, controller: null, loopCurrent_mA, ...more(i) }))
const told = (rows: QuickRow[], change: Partial<QuickTask> = {}) =>
  quickAsFound({ stages, needsRoot: false, tolerance: T, absolute: false, rows, ...change })

describe('five currents typed in a hurry', () => {
  const rows: readonly [
    why: string,
    mA: readonly number[],
    verdict: string,
    what: RegExp | null,
    act: RegExp,
  ][] = [
    ['a healthy loop', [4.004, 8.01, 11.996, 16.01, 20.005], 'PASS', null, /^Leave it alone/],
    [
      'a zero shift',
      [4.24, 8.24, 12.24, 16.24, 20.24],
      'FAIL',
      /shifted by the same/,
      /Off by the same: zero trim\. Right: output trim/,
    ],
    ['a zero below 4 mA', [3.8, 7.75, 11.75, 15.75, 19.75], 'FAIL', /shifted by the same/, /zero trim/],
    ['a span that is 4 % low', [4, 7.84, 11.68, 15.52, 19.36], 'FAIL', /span|20 mA point/, /sensor trim/],
    [
      'a loop that cannot reach 20 mA',
      [4, 8, 12, 16, 17.2],
      'FAIL',
      /cannot go higher/,
      /Do not trim\. Measure the volts/,
    ],
    [
      'one that stands still',
      [9.31, 9.31, 9.31, 9.31, 9.31],
      'FAIL',
      /stuck/,
      /Do not trim\. Look for a fixed-current/,
    ],
    ['reverse action', [20, 16, 12, 8, 4], 'FAIL', /revers|swapped/, /Do not trim\. The action/],
    ['0-20 mA sent', [0, 5, 10, 15, 20], 'FAIL', /0-20/, /Do not trim\. One end works with 0-20/],
    [
      'a root that is taken',
      [4, 12, 15.314, 17.856, 20],
      'FAIL',
      /square root/,
      /Do not trim\. The square root/,
    ],
  ]
  test.each(rows)('%s', (_why, mA, verdict, what, act) => {
    const q = told(only(mA))
    expect(q?.judgement.class).toBe(verdict)
    expect(q?.what ?? '').toMatch(what ?? /^$/)
    expect(q?.act).toMatch(act)
  })
  test('what was not read is not judged, and what to read next is said', () => {
    const q = told(only(IDEAL))
    expect(q?.where).toContain('Not read, so not judged: the transmitter’s own value, the controller.')
    expect(q?.next).toBe('Read the controller at one point, then it is known to its end.')
    expect(told(only([4, null, null, null, null]))?.next).toBe('Read the other 4 points too.')
    expect(told(only([null, null, null, null, null]))).toBeNull()
  })
  test('an absolute transmitter is never zeroed in open air', () => {
    const q = told(only([4.24, 8.24, 12.24, 16.24, 20.24]), { absolute: true })
    expect(q?.act).toMatch(/^Never zero it in open air/)
  })
  test('with the transmitter’s own value the part is known, and its one act', () => {
    const pv = (i: number) => 20 * i
    const output = told(
      only(
        IDEAL.map((x) => x + 0.2),
        (i) => ({ pv: pv(i) }),
      ),
    )
    expect(output?.where).toBe('The error comes in between Sensor and Loop.')
    expect(output?.act).toMatch(/^Output trim/)
    const sensor = told(
      only(
        IDEAL.map((x) => x + 0.2),
        (i) => ({ pv: pv(i) + 1 }),
      ),
    )
    expect(sensor?.where).toBe('The error comes in between Process and Sensor.')
    expect(sensor?.act).toMatch(/^Zero trim/)
  })
  test('a receiver’s error leaves the transmitter alone', () => {
    const q = told(only(IDEAL, (i) => ({ controller: 22 * i })))
    expect(q?.judgement.class).toBe('FAIL')
    expect(q?.act).toMatch(/^Leave the transmitter alone/)
  })
  test('a current of another loop is asked about, not judged', () => {
    const q = told(only([4, 8, 9.3, 16, 20]))
    expect(q?.judgement.sentence).toMatch(/^Not judged yet/)
    expect(q?.act).toBe('Change nothing yet.')
  })
  test('500 healthy loops with scatter: none is told to be changed', () => {
    const g = new Generator(31)
    const acts = Array.from({ length: 500 }, () => told(only(IDEAL.map((x) => x + 0.012 * g.normal())))?.act)
    expect(acts.filter((a) => a !== 'Leave it alone.')).toEqual([])
  })
})
