import { describe, expect, test } from 'vitest'
import { isRefused } from '../refused.ts'
import { brokenRules } from './check.ts'
import { allChoices } from './choices.ts'
import { costOf, isLess } from './cost.ts'
import { lowerBound } from './bound.ts'
import { Layout } from './layout.ts'
import { dayOf, PlacingSchema, PlanProblem, placedOf, type Placing } from './problem.ts'
import { sightedOf } from './sight.ts'
import { solvePlan, type Plan } from './solve.ts'
import { a, at, day, job, randomDay, ready } from './test/days.ts'

const solved = (p: PlanProblem, method: 'exact' | 'search' = 'exact', most?: number): Plan => {
  const told = solvePlan(p, 20_317, method, 1e9, () => 0, most)
  if (isRefused(told)) throw new Error(told.says)
  return told
}
const placing = (job_: string, person: string, start: string, more: Partial<Placing> = {}) =>
  PlacingSchema.parse({ job: job_, person, start, ...more })
const broken = (p: PlanProblem, placings: Placing[]) =>
  brokenRules(ready(p), sightedOf(ready(p), placings)).map(
    (b) => `${b.code} ${b.job ?? '–'} ${b.other ?? '–'}`,
  )

const kit = { kit: 'gas', setup: 20 }
const E1 = [job('A', 60, 'X', kit), job('B', 30, 'Y'), job('C', 45, 'X', kit)]
const b_ = {
  id: 'b',
  abilities: ['gas'],
  turns: [{ from: at('06:00'), to: at('10:00'), area: 'X' }],
}
const E3 = (helper: NonNullable<Parameters<typeof job>[3]>['helper']) =>
  day(
    [
      job('A', 60, 'X', { abilities: ['gas'], helper }),
      job('B', 30, 'Y'),
      job('C', 40, 'Y', { after: ['B'] }),
    ],
    {
      people: [a, b_],
    },
  )
const E6 = [job('A', 30, 'X'), job('B', 30, 'Y', { importance: 2, due: at('06:30') })]
const pump = { kind: 'pressure', unit: 'bar', lo: 0, hi: 40, tolerance: 0.1, ratio: 4 }
const E8 = day(
  [job('A', 50, 'X', { instruments: [pump] }), job('B', 50, 'Y', { instruments: [pump] }), job('C', 30, 'X')],
  {
    people: [a, { id: 'b', abilities: [], turns: [{ from: at('06:00'), to: at('10:00'), area: 'W' }] }],
    instruments: [
      {
        id: 'pump',
        kind: 'pressure',
        unit: 'bar',
        lo: 0,
        hi: 60,
        u: 0.02,
        certificateEnds: at('08:00'),
        area: 'W',
      },
    ],
  },
)

describe('days whose best plan is known', () => {
  type Row = [
    string,
    PlanProblem,
    number,
    number,
    [number, number, number, number, number],
    Record<string, string>,
    number,
  ]
  const rows: Row[] = [
    ['one kit', day(E1), 0, 141, [0, 68, 60, 13, 0], { B: '06:08', C: '07:02', A: '08:30' }, 116],
    [
      'one of them late',
      day(E1.map((j) => (j.id === 'B' ? { ...j, importance: 5, due: at('06:30') } : j))),
      0,
      301,
      [160, 68, 60, 13, 0],
      { B: '06:08', C: '07:02', A: '08:30' },
      276,
    ],
    [
      'a helper by radio',
      E3({ how: 'radio', abilities: [], begin: 10, end: 10 }),
      0,
      116,
      [0, 64, 0, 2, 50],
      { A: '06:00', B: '06:18', C: '07:00' },
      32,
    ],
    [
      'a helper throughout',
      E3({ how: 'throughout', abilities: [] }),
      0,
      125,
      [0, 72, 0, 5, 48],
      { A: '06:05', B: '07:09', C: '07:39' },
      48,
    ],
    [
      'a window too short',
      day([
        job('A', 60, 'X', {
          windows: [
            { from: at('07:30'), to: at('08:20') },
            { from: at('08:30'), to: at('09:50') },
          ],
        }),
        job('B', 90, 'Y'),
        job('C', 50, 'W', { importance: 1, latest: at('09:30') }),
      ]),
      10,
      90,
      [0, 68, 0, 22, 0],
      { B: '06:08', A: '08:34' },
      56,
    ],
    [
      'told already',
      day(E6, {
        told: [
          { job: 'A', person: 'a', start: at('06:05') },
          { job: 'B', person: 'a', start: at('06:39') },
        ],
      }),
      0,
      128,
      [60, 68, 0, 0, 0],
      { A: '06:05', B: '06:39' },
      76,
    ],
    ['the same, nothing told', day(E6), 0, 88, [20, 68, 0, 0, 0], { B: '06:08', A: '06:42' }, 76],
    [
      'a night in which the clocks go forward',
      day(
        [
          job('A', 200, 'X', { due: at('18:00', '2027-03-29') }),
          job('B', 200, 'X', { due: at('18:00', '2027-03-29') }),
        ],
        {
          now: at('21:00', '2027-03-27'),
          people: [
            {
              id: 'a',
              abilities: [],
              turns: [{ from: at('21:00', '2027-03-27'), to: at('04:00', '2027-03-28'), area: 'W' }],
            },
          ],
        },
      ),
      0,
      40,
      [0, 40, 0, 0, 0],
      {},
      40,
    ],
    ['one pump for two', E8, 0, 143, [0, 104, 0, 27, 12], {}, 56],
  ]
  test.each(rows)('%s', (_what, p, unplaced, points, [late, walk, setup, wait, spread], starts, bound) => {
    const plan = solved(p)
    expect(plan.proved).toBe(true)
    expect(plan.cost).toMatchObject({ unplaced, points, parts: { late, walk, setup, wait, spread } })
    const told = Object.fromEntries(plan.placings.map((x) => [x.job, x.start.slice(11, 16)]))
    expect(told).toMatchObject(starts)
    expect(broken(p, [...plan.placings])).toEqual([])
    expect(lowerBound(ready(p)).points).toBe(bound)
  })
  test('every placing has its reason, and what did not fit says what it could have instead', () => {
    const plan = solved(rows[4]?.[1] ?? day([]))
    expect(plan.reasons.map((r) => [r.job, r.placed, r.why.code])).toEqual([
      ['A', true, expect.any(String)],
      ['B', true, 'NO_TIME_TO_GET_THERE'],
      ['C', false, 'CROWDED'],
    ])
    expect(plan.reasons[2]?.says).toMatch(/it would fit in place of|stays \d+ minutes longer|only a re-plan/)
  })
})

describe('hard rules', () => {
  const p = day([job('A', 60, 'X', { instruments: [{ ...pump, hi: 10 }] })], {
    areas: ['W', 'X'],
    walk: [
      [0, 9],
      [9, 0],
    ],
    people: [
      { id: 'a', abilities: [], turns: [{ from: at('06:00'), to: at('14:00'), area: 'W', breaks: [] }] },
    ],
    instruments: [
      { id: 'pump', kind: 'pressure', unit: 'bar', lo: 0, hi: 60, u: 0.02, certificateEnds: null, area: 'W' },
    ],
  })
  const put = (start: string, more: Partial<Placing> = {}) => [
    placing('A', 'a', at(start), { instruments: ['pump'], ...more }),
  ]
  test('a minute decides: the way there, the way home', () => {
    expect(broken(p, put('06:09'))).toEqual([])
    expect(broken(p, put('06:08'))).toEqual(['NO_TIME_TO_GET_THERE A a', 'INSTRUMENT_NOT_HERE A pump'])
    expect(broken(p, put('12:51'))).toEqual([])
    expect(broken(p, put('12:52'))).toEqual(['NO_WAY_BACK A a'])
    expect(broken(p, put('13:01'))).toEqual(['OUT_OF_SHIFT A a'])
  })
  test('a break with the way and setting up before it', () => {
    const q = day([job('A', 60, 'X', { setup: 20 })], {
      walk: [
        [0, 7, 9],
        [7, 0, 9],
        [9, 9, 0],
      ],
      people: [
        {
          id: 'a',
          abilities: [],
          turns: [
            {
              from: at('06:00'),
              to: at('14:00'),
              area: 'W',
              breaks: [{ from: at('09:45'), to: at('10:15') }],
            },
          ],
        },
      ],
    })
    expect(broken(q, [placing('A', 'a', at('10:42'))])).toEqual([])
    expect(broken(q, [placing('A', 'a', at('10:41'))])).toEqual(['IN_BREAK A a'])
  })
  const two = day(
    [
      job('A', 30, 'X', { abilities: ['gas'], uses: { film: 2 } }),
      job('B', 30, 'X', { helper: { how: 'throughout', abilities: ['gas'] }, uses: { film: 2 } }),
      job('C', 30, 'X', {
        after: ['B'],
        earliest: at('07:00'),
        latest: at('09:00'),
        windows: [{ from: at('07:00'), to: at('08:00') }],
        holds: [{ at: 0, minutes: 5, person: 'op' }],
      }),
    ],
    {
      people: [{ ...a, turns: [{ from: at('06:00'), to: at('12:00'), area: 'W' }] }, b_],
      stock: { film: 3 },
      holders: [{ id: 'op', role: 'operations', there: [{ from: at('07:15'), to: at('09:00') }] }],
      locked: [{ job: 'A', person: 'b', start: at('06:00') }],
    },
  )
  test.each<[string, Placing[], string[]]>([
    ['nobody knows him', [placing('A', 'z', at('06:00'))], ['UNKNOWN A z', 'LOCK_MOVED A –']],
    ['twice', [placing('A', 'b', at('06:00')), placing('A', 'b', at('08:00'))], ['PLACED_TWICE A –']],
    ['not able', [placing('A', 'a', at('06:05'))], ['NOT_ABLE A a', 'LOCK_MOVED A –']],
    [
      'alone',
      [placing('A', 'b', at('06:00')), placing('B', 'a', at('07:00'))],
      ['HELPER_MISSING B –', 'STOCK_SHORT – film'],
    ],
    [
      'helped by himself',
      [placing('A', 'b', at('06:00')), placing('B', 'b', at('07:00'), { helper: 'b' })],
      ['HELPER_SAME B –', 'STOCK_SHORT – film'],
    ],
    [
      'a helper who may not',
      [placing('A', 'b', at('06:00')), placing('B', 'b', at('07:00'), { helper: 'a' })],
      ['HELPER_NOT_ABLE B a', 'STOCK_SHORT – film'],
    ],
    ['a helper too many', [placing('A', 'b', at('06:00'), { helper: 'a' })], ['HELPER_NOT_NEEDED A –']],
    [
      'two at once',
      [placing('A', 'b', at('06:00')), placing('C', 'b', at('06:10'))],
      ['LOCK_MOVED A –']
        .slice(1)
        .concat([
          'PERSON_BUSY C A',
          'TOO_EARLY C –',
          'NO_WINDOW C –',
          'HOLD_NOT_THERE C op',
          'BEFORE_AFTER C B',
        ]),
    ],
    [
      'too late',
      [placing('A', 'b', at('06:00')), placing('C', 'b', at('08:45'))],
      ['TOO_LATE C –', 'NO_WINDOW C –', 'BEFORE_AFTER C B'],
    ],
  ])('%s', (_what, placings, codes) => {
    expect(broken(two, placings)).toEqual(codes)
  })
  test.each<[string, object, RegExp]>([
    ['a strange area', { jobs: [job('A', 5, 'Q')] }, /jobs.0.area/],
    ['a circle', { jobs: [job('A', 5, 'X', { after: ['B'] }), job('B', 5, 'X', { after: ['A'] })] }, /after/],
    ['a table that is none', { walk: [[0, 1]] }, /walk/],
    [
      'two locks of one',
      {
        locked: [
          { job: 'A', person: 'a', start: at('07:00') },
          { job: 'A', person: 'a', start: at('08:00') },
        ],
      },
      /locked.1/,
    ],
    ['turns that overlap', { people: [{ ...a, turns: [...a.turns, ...a.turns] }] }, /people.0.turns.1/],
  ])('%s is refused with its path', (_what, change, where) => {
    const told = dayOf({ ...day([job('A', 5, 'X')]), ...PlanProblem.partial().parse(change) } as PlanProblem)
    expect(isRefused(told) && told.where).toMatch(where)
  })
})

describe('what nothing places says what would', () => {
  test.each<[string, Partial<Parameters<typeof job>[3]>, object, string]>([
    ['an ability nobody has', { abilities: ['dive'] }, {}, 'ABILITY'],
    ['an instrument nobody has', { instruments: [{ ...pump, hi: 400 }] }, {}, 'INSTRUMENT'],
    ['what is not in stock', { uses: { film: 1 } }, {}, 'STOCK'],
    ['no window at all', { windows: [{ from: at('11:00'), to: at('12:00') }] }, {}, 'WINDOW'],
    [
      'nobody to release it',
      { holds: [{ at: 0, minutes: 5, person: 'op' }] },
      { holders: [{ id: 'op', role: 'o', there: [] }] },
      'HOLD',
    ],
    ['longer than the shift', { minutes: 300 }, {}, 'SHIFT'],
    ['two things at once', { abilities: ['dive'], uses: { film: 1 } }, {}, 'SEVERAL'],
  ])('%s', (_what, more, problem, lift) => {
    const plan = solved(day([{ ...job('A', 30, 'X'), ...more }], problem))
    expect(plan.reasons[0]).toMatchObject({ placed: false, why: { code: 'NOWHERE' }, lift })
    expect(plan.proved).toBe(true)
  })
  test('what was agreed is kept however little time there is to search', () => {
    for (let seed = 1; seed <= 15; seed++) {
      const free = randomDay(seed, 24, 2)
      const began = solved(free, 'search', 40)
      const at = began.placings.toSorted((x, y) => x.start.localeCompare(y.start))
      // The last of a good plan that waits for no other is agreed for its time, and all is planned anew in no time.
      const last = at.findLast((p) => free.jobs.find((j) => j.id === p.job)?.after.length === 0)
      if (!last) continue
      const locked = [{ job: last.job, person: last.person, start: last.start }]
      const told = solvePlan(PlanProblem.parse({ ...free, locked }), 1, 'search', 0, () => 1)
      expect([seed, isRefused(told) ? told.says : 'planned']).toEqual([seed, 'planned'])
    }
  })
  test('a lock that cannot be kept is refused with the rules against it', () => {
    const told = solvePlan(
      day([job('A', 30, 'X')], { locked: [{ job: 'A', person: 'a', start: at('06:01') }] }),
      1,
      'exact',
      1e9,
      () => 0,
    )
    expect(isRefused(told) && [told.where, told.says]).toEqual([
      'locked',
      expect.stringContaining('NO_TIME_TO_GET_THERE'),
    ])
  })
})

/** The least cost over every order of every choice of every subset: what branch and bound has to be equal to. */
function exhaustive(p: PlanProblem): { unplaced: number; points: number } {
  const d = ready(p)
  const choices = allChoices(d)
  const line = new Layout(d, choices)
  let best = { unplaced: Infinity, points: Infinity }
  const go = (order: number[], option: number[]): void => {
    const cost = line.lay({ order, option })
    if (cost && isLess(cost, best)) best = { unplaced: cost.unplaced, points: cost.points }
    d.jobs.forEach((j, i) => {
      if (order.includes(i) || !j.after.every((x) => order.includes(x))) return
      for (const [k] of (choices[i] ?? []).entries())
        go(
          [...order, i],
          option.map((o, x) => (x === i ? k : o)),
        )
    })
  }
  go(
    [],
    d.jobs.map(() => -1),
  )
  return best
}

describe('random days', () => {
  test('the exact plan is the best of every order of every choice', () => {
    for (let seed = 200; seed < 260; seed++) {
      const made = randomDay(seed, 2 + (seed % 3), 1 + (seed % 2))
      // A radio helper's gap can be waited for: only the exact method finds that.
      const p = {
        ...made,
        jobs: made.jobs.map((j) => (j.helper?.how === 'radio' ? { ...j, helper: null } : j)),
      }
      const { unplaced, points } = solved(p).cost
      expect([seed, { unplaced, points }]).toEqual([seed, exhaustive(p)])
    }
  })
  test('no plan breaks a rule, none is under the bound, the exact one is never worse than the search', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const p = randomDay(seed, 2 + (seed % 4), 1 + (seed % 3))
      const d = ready(p)
      const [exact, search] = [solved(p), solved(p, 'search', 300)]
      for (const plan of [exact, search]) {
        expect([seed, broken(p, [...plan.placings])]).toEqual([seed, []])
        const cost = costOf(
          d,
          plan.placings.map((x) => placedOf(d, x)),
        )
        expect(cost).toEqual(plan.cost)
        const low = lowerBound(d)
        expect([seed, isLess(cost, low)]).toEqual([seed, false])
      }
      expect([seed, isLess(search.cost, exact.cost)]).toEqual([seed, false])
    }
  })
  test('the same seed and steps give the same plan', () => {
    const p = randomDay(77, 20, 3)
    expect(solved(p, 'search', 200)).toEqual(solved(p, 'search', 200))
  })
})
