import { describe, expect, test } from 'vitest'
import { isRefused } from '../refused.ts'
import { Generator } from '../statistics/generator.ts'
import { brokenRules } from './check.ts'
import { allChoices } from './choices.ts'
import { costOf } from './cost.ts'
import { solveExactly } from './exact.ts'
import { NodeBound } from './exact-bound.ts'
import { nothingPlaced, type State } from './exact-state.ts'
import { Steps } from './exact-steps.ts'
import { Layout } from './layout.ts'
import { LeastWays } from './least-ways.ts'
import { PlanProblem, type Day } from './problem.ts'
import { known } from './sight.ts'
import { solvePlan, workOut } from './solve.ts'
import { a, at, day, job, randomDay, ready } from './test/days.ts'

const never = () => false
/** A day at random in which many jobs need a second person: by radio with both parts, one of them, or throughout. */
function pairedDay(seed: number): Day {
  const made = randomDay(seed, 2 + (seed % 3), 2 + (seed % 2))
  const helpers = [
    { how: 'radio' as const, abilities: [], begin: 5, end: 5 },
    { how: 'radio' as const, abilities: [], begin: 0, end: 5 },
    { how: 'radio' as const, abilities: [], begin: 10, end: 0 },
    { how: 'throughout' as const, abilities: [] },
    null,
  ]
  return ready({
    ...made,
    jobs: made.jobs.map((j, i) => ({
      ...j,
      helper: (j.minutes >= 20 ? helpers[(seed + i) % 5] : null) ?? null,
    })),
  })
}

/** Every plan there is of a day, by trying every order of every token of every choice: costs of the ones that are right. */
function everyPlan(d: Day): { unplaced: number; points: number } {
  const [choices, steps] = [allChoices(d), new Steps(d)]
  let best = { unplaced: Infinity, points: Infinity }
  const go = (s: State): void => {
    if (s.open.length === 0) {
      const placed = s.start.flatMap((start, i) => {
        const c = s.choice[i]?.choice
        return start < 0 || !c
          ? []
          : [{ job: i, person: c.person, helper: c.helper, instruments: c.instruments, start }]
      })
      const cost = costOf(d, placed)
      if (cost.unplaced < best.unplaced || (cost.unplaced === best.unplaced && cost.points < best.points))
        best = { unplaced: cost.unplaced, points: cost.points }
    }
    d.jobs.forEach((_, i) => {
      if (s.placed & (1 << i)) return
      for (const c of choices[i] ?? [])
        for (const hasGap of steps.canHaveGap(s, i) ? [false, true] : [false]) {
          const next = steps.begun(s, i, c, hasGap)
          if (next) go(next)
        }
    })
    for (const o of s.open) {
      const next = steps.ended(s, o)
      if (next) go(next)
    }
  }
  go(nothingPlaced(d))
  return best
}

describe('the exact method', () => {
  test('cuts nothing away that is better, and breaks no rule, with helpers by radio and throughout', () => {
    for (let seed = 300; seed < 312; seed++) {
      const d = pairedDay(seed)
      const told = solveExactly(d, [], never)
      expect([seed, brokenRules(d, known(d, told.placed))]).toEqual([seed, []])
      const { unplaced, points } = told.cost
      expect([seed, { unplaced, points }]).toEqual([seed, everyPlan(d)])
    }
  })
  test('two helpers by radio are called in turn: the second call of one lies between the calls of the other', () => {
    const helper = { how: 'radio' as const, abilities: [], begin: 5, end: 5 }
    const people = ['a', 'b', 'c'].map((id) => ({ ...a, id, turns: [{ ...a.turns[0], breaks: [] }] }))
    const told = solvePlan(
      day(
        [job('A', 60, 'W', { helper, abilities: ['gas'] }), job('B', 62, 'W', { helper, abilities: ['ph'] })],
        {
          people: [
            { ...people[0], abilities: ['gas'] },
            { ...people[1], abilities: ['ph'] },
            { ...people[2], abilities: [] },
          ].map((p) => ({
            ...p,
            id: p.id ?? '',
            turns: [{ from: at('06:00'), to: at('07:10'), area: 'W' }],
          })),
        },
      ),
      1,
      'exact',
      1e9,
      () => 0,
    )
    expect(isRefused(told) ? told.says : [told.proved, told.cost.unplaced]).toEqual([true, 0])
  })
  test('a bound is never above what a list of tokens comes to', () => {
    const g = new Generator(7)
    let compared = 0
    for (let seed = 400; seed < 440; seed++) {
      const d = pairedDay(seed)
      const [choices, steps] = [allChoices(d), new Steps(d)]
      const bounds = new NodeBound(d, choices)
      for (let walk = 0; walk < 30; walk++) {
        const path: State[] = [nothingPlaced(d)]
        for (let s = path[0]; s;) {
          const next = [
            ...d.jobs.flatMap((_, i) =>
              s && !(s.placed & (1 << i))
                ? (choices[i] ?? []).flatMap((c) => steps.begun(s as State, i, c, false) ?? [])
                : [],
            ),
            ...s.open.flatMap((o) => steps.ended(s as State, o) ?? []),
          ]
          s = next[Math.floor(g.uniform() * next.length)]
          if (s) path.push(s)
        }
        const end = path.at(-1)
        if (!end || end.open.length > 0) continue
        const cost = costOf(
          d,
          end.start.flatMap((start, i) => {
            const c = end.choice[i]?.choice
            return start < 0 || !c ? [] : [{ ...c, job: i, start }]
          }),
        )
        for (const s of path) {
          const b = bounds.of(s, never)
          compared++
          const isAbove =
            b.unplaced > cost.unplaced || (b.unplaced === cost.unplaced && b.points > cost.points)
          expect([seed, walk, isAbove]).toEqual([seed, walk, false])
        }
      }
    }
    expect(compared).toBeGreaterThan(2000)
  })
})

describe('the least ways', () => {
  const d = day(
    ['X', 'Y', 'Z'].map((area) => job(area, 10, area)),
    {
      areas: ['W', 'X', 'Y', 'Z'],
      walk: [
        [0, 5, 8, 9],
        [5, 0, 4, 7],
        [8, 4, 0, 3],
        [9, 7, 3, 0],
      ],
    },
  )
  const areas = ['W', 'X', 'Y', 'Z']
  test.each<[string, string[], string, number]>([
    ['nowhere', ['W'], '', 0],
    ['there and back', ['W'], 'X', 10],
    ['a round', ['W'], 'XYZ', 21],
    ['who is there already goes home only', ['Z'], 'Z', 9],
    ['over what lies on no way', ['Z'], 'X', 12],
    ['two share it', ['X', 'Z'], 'XYZ', 16],
    ['two from home: one goes the round, the other stays', ['W', 'W'], 'XYZ', 21],
  ])('%s', (_what, from, into, minutes) => {
    const ways = new LeastWays(ready(d))
    const mask = [...into].reduce((n, x) => n | ways.bitOf(areas.indexOf(x)), 0)
    const turns = from.map((x) => ({ area: areas.indexOf(x), home: 0 }))
    expect(ways.minutes(turns, mask)).toBe(minutes)
  })
})

describe('a layout', () => {
  test('costs what the plan costs, however it was laid out', () => {
    const g = new Generator(11)
    for (let seed = 500; seed < 540; seed++) {
      const made = randomDay(seed, 14, 3)
      const told = made.jobs
        .slice(0, 5)
        .map((j, i) => ({ job: j.id, person: `p${i % 3}`, start: at(`0${5 + i}:20`) }))
      const d = ready(PlanProblem.parse({ ...made, told }))
      const choices = allChoices(d)
      const line = new Layout(d, choices)
      for (let k = 0; k < 20; k++) {
        const keys = d.jobs.map(() => g.uniform())
        const order = d.jobs.map((_, i) => i).sort((x, y) => (keys[x] ?? 0) - (keys[y] ?? 0))
        const option = d.jobs.map((_, i) => Math.floor(g.uniform() * ((choices[i]?.length ?? 0) + 1)) - 1)
        const laid = line.lay({ order, option })
        const placed = line.placed({ order, option })
        const { unplaced, points } = costOf(d, placed)
        expect([seed, k, laid]).toEqual([seed, k, { unplaced, points, missed: 0 }])
        expect([seed, k, brokenRules(d, known(d, placed))]).toEqual([seed, k, []])
        // What is left in the middle as too dear is too dear.
        const dear = 3000 * unplaced + points
        expect([seed, k, line.lay({ order, option }, dear) === null]).toEqual([seed, k, false])
        expect([seed, k, line.lay({ order, option }, dear - 1) === null || dear]).toEqual([seed, k, true])
      }
    }
  })
})

describe('a search that the clock ended', () => {
  test.each([8, 20])('is repeated by its number of steps: %i jobs', (jobs) => {
    const p = randomDay(81, jobs, 3)
    for (const ends of [3, 40, 150, 400, 3000]) {
      let looks = 0
      const stopped = workOut(p, 5, 'search', ends, () => looks++)
      if (isRefused(stopped)) throw new Error(stopped.says)
      expect(workOut(p, 5, 'search', 1e9, () => 0, stopped.steps)).toEqual(stopped)
    }
  })
})

describe('what was agreed', () => {
  const whole = {
    people: [{ id: 'a', abilities: [], turns: [{ from: at('06:00'), to: at('10:00'), area: 'W' }] }],
  }
  const lock = (job_: string, start: string) => ({ job: job_, person: 'a', start: at(start) })
  test.each<[string, PlanProblem, Record<string, string>]>([
    [
      'waits for another job, which goes before it',
      day([job('A', 30, 'X'), job('B', 30, 'X', { after: ['A'] })], {
        ...whole,
        locked: [lock('B', '06:35')],
      }),
      { A: '06:05', B: '06:35' },
    ],
    [
      'waits for a chain of them, with another agreed in between',
      day(
        [
          job('A', 30, 'X'),
          job('B', 20, 'X', { after: ['A'] }),
          job('C', 30, 'X', { after: ['B'] }),
          job('D', 30, 'X', { importance: 5, due: at('06:00') }),
        ],
        { ...whole, locked: [lock('C', '08:00'), lock('D', '06:50')] },
      ),
      { C: '08:00', D: '06:50' },
    ],
  ])('%s, with no time to search', (_what, p, starts) => {
    const told = solvePlan(p, 1, 'search', 0, () => 1)
    if (isRefused(told)) throw new Error(told.says)
    const d = ready(p)
    expect(Object.fromEntries(told.placings.map((x) => [x.job, x.start.slice(11, 16)]))).toMatchObject(starts)
    expect(told.cost.unplaced).toBe(0)
    expect(d.jobs.length).toBe(told.placings.length)
  })
})
