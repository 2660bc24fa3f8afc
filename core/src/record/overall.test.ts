import { describe, expect, test } from 'vitest'
import type { Judgement, VerdictClass } from '../verify/verdict.ts'
import { overallOf } from './overall.ts'

const judged = (c: VerdictClass, more: Partial<Judgement> = {}) =>
  ({ class: c, open: [], missing: [], ...more }) as unknown as Judgement
const run = (more: object = {}) => ({
  state: 'ready' as const,
  leftAsFound: false,
  adjustments: [] as { note: string; by: string; at: string }[],
  startedAt: '2026-08-31T09:00:00.000Z',
  ...more,
})
const trim = [{ note: 'zero', by: 'a', at: '2026-08-31T09:30:00.000Z' }]
const yearly = { interval_months: 6 }

describe('what a whole verification comes to', () => {
  const rows: readonly [
    why: string,
    says: ReturnType<typeof overallOf>,
    wanted: [VerdictClass | null, RegExp, string | null],
  ][] = [
    [
      'good and left alone',
      overallOf(run({ leftAsFound: true }), yearly, judged('PASS'), null),
      ['PASS', /^In tolerance as found, nothing was adjusted\.$/, '2027-02-28'],
    ],
    [
      'out, trimmed, good',
      overallOf(run({ adjustments: trim }), yearly, judged('FAIL'), judged('PASS')),
      ['PASS', /^In tolerance as left after adjustment; out of tolerance as found\.$/, '2027-02-28'],
    ],
    [
      'out and left out',
      overallOf(run({ leftAsFound: true }), yearly, judged('FAIL'), null),
      ['FAIL', /^Out of tolerance as found/, 'at once: out of tolerance'],
    ],
    [
      'trimmed and not read since',
      overallOf(run({ adjustments: trim }), yearly, judged('FAIL'), null),
      [null, /adjusted and not read since/, 'at once: adjusted and not verified'],
    ],
    [
      'a question open',
      overallOf(run(), yearly, judged('PASS'), judged('PASS', { open: ['point 2: 8 mA does not belong'] })),
      [null, /^Not judged: point 2/, null],
    ],
    [
      'half of the plan',
      overallOf(run({ leftAsFound: true }), yearly, judged('PASS', { missing: [3, 4] }), null),
      ['PASS', /2 points of the plan were not read/, '2027-02-28'],
    ],
    [
      'no interval set',
      overallOf(run({ leftAsFound: true }), { interval_months: null }, judged('PASS'), null),
      ['PASS', /In tolerance/, null],
    ],
  ]
  test.each(rows)('%s', (_why, told, [verdict, says, due]) => {
    expect([told.verdict, told.due]).toEqual([verdict, due])
    expect(told.says).toMatch(says)
  })
})
