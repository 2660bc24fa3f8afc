import { describe, expect, test } from 'vitest'
import { sayShift, shiftsSince, type ZeroRead } from './shift.ts'

const read = (at: string, found: number | null, left: number | null = null, simulated = false): ZeroRead => ({
  at: `${at}T08:00:00.000Z`,
  found_pct: found,
  left_pct: left,
  simulated,
})

describe('how far the zero went since the trim before', () => {
  test('from what was left then to what was found now, in days', () => {
    const [now, first] = shiftsSince([read('2026-03-02', 0.23, 0.01), read('2025-03-02', 0.4, 0.02)])
    expect(now?.shift_pct).toBeCloseTo(0.21, 12)
    expect([now?.days, now?.since, first]).toEqual([365, '2025-03-02T08:00:00.000Z', null])
  })
  const cases: readonly [string, readonly ZeroRead[], number | null][] = [
    ['not adjusted then: left as it was found', [read('2026-03-02', 0.3), read('2025-03-02', 0.1)], 0.2],
    [
      'the one before read no zero: the one before that',
      [read('2026-03-02', 0.3), read('2025-09-02', null), read('2025-03-02', 0.1, 0)],
      0.3,
    ],
    [
      'simulated before, real now: nothing to compare',
      [read('2026-03-02', 0.3), read('2025-03-02', 0.1, 0, true)],
      null,
    ],
    ['nothing was read now', [read('2026-03-02', null), read('2025-03-02', 0.1, 0)], null],
    ['the first one', [read('2026-03-02', 0.3)], null],
  ]
  test.each(cases)('%s', (_, reads, wanted) => {
    const [first] = shiftsSince(reads)
    expect(first === null || first === undefined ? null : Number(first.shift_pct.toFixed(9))).toBe(wanted)
  })
  test('in a sentence, with its rate where the time is long enough for one', () => {
    const said = (days: string) => sayShift(shiftsSince([read('2026-03-02', 0.23), read(days, 0.4, 0.02)]))
    expect(said('2025-03-02')).toBe(
      'Zero shifted by +0.21 % of span since the one before (365 days, 0.21 % a year).',
    )
    expect(said('2026-02-20')).toBe('Zero shifted by +0.21 % of span since the one before (10 days).')
    expect(sayShift([null])).toBeNull()
  })
  test('three times the same way and further each time: no trim mends that', () => {
    const grown = shiftsSince([
      read('2026-03-02', 0.4, 0),
      read('2025-03-02', 0.3, 0),
      read('2024-03-02', 0.2, 0),
      read('2023-03-02', 0.1, 0),
    ])
    expect(sayShift(grown)).toMatch(/further each time: a trim only hides that/)
    // To and fro, or smaller each time, is scatter.
    const scatter = shiftsSince([
      read('2026-03-02', 0.4, 0),
      read('2025-03-02', -0.3, 0),
      read('2024-03-02', 0.2, 0),
      read('2023-03-02', 0.1, 0),
    ])
    expect(sayShift(scatter)).not.toMatch(/further/)
  })
})
