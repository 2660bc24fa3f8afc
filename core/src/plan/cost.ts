import { occupationsOf, turnPlans } from './occupations.ts'
import type { Day, Interval, Placed } from './problem.ts'

/** What a plan costs, compared by `unplaced` first, then by `points`. All whole numbers. */
export interface Cost {
  readonly unplaced: number
  readonly points: number
  readonly parts: {
    readonly late: number
    readonly walk: number
    readonly setup: number
    readonly wait: number
    readonly spread: number
    readonly otherPerson: number
    readonly reversed: number
    readonly later: number
    readonly dropped: number
  }
}
const QUARTER = 15

/** Started quarter hours that a job ends after it was due; what is past is in its value. */
export const lateOf = (d: Day, job: number, end: number): number => {
  const j = d.jobs[job]
  return j ? j.value * Math.ceil(Math.max(0, end - Math.max(j.due, d.now)) / QUARTER) : 0
}
export const insideOf = (breaks: readonly Interval[], from: number, to: number): number =>
  breaks.reduce((n, b) => n + Math.max(0, Math.min(b.to, to) - Math.max(b.from, from)), 0)

/** Whether one plan costs less than another. */
export const isLess = (a: Pick<Cost, 'unplaced' | 'points'>, b: Pick<Cost, 'unplaced' | 'points'>): boolean =>
  a.unplaced < b.unplaced || (a.unplaced === b.unplaced && a.points < b.points)

/** Cost of a plan in which each job stands once. */
export function costOf(d: Day, placed: readonly Placed[]): Cost {
  const w = d.weights
  const byJob = new Map(placed.map((p) => [p.job, p]))
  let [unplaced, late, dropped, otherPerson, later] = [0, 0, 0, 0, 0]
  d.jobs.forEach((j, i) => {
    const p = byJob.get(i)
    if (!p) {
      unplaced += j.value
      if (j.told) dropped += w.dropped
      return
    }
    late += lateOf(d, i, p.start + j.minutes)
    if (!j.told) return
    if (j.told.person !== p.person) otherPerson += w.otherPerson
    later += w.later * Math.max(0, p.start - j.told.start)
  })
  let [walk, setup, wait] = [0, 0, 0]
  const busy = d.people.map(() => 0)
  for (const t of turnPlans(d, placed)) {
    const last = t.occupations.reduce((n, o) => Math.max(n, o.to), -Infinity)
    if (t.occupations.length === 0) continue
    const ways = t.blocks.reduce((n, b) => n + b.walk, 0)
    const sets = t.blocks.reduce((n, b) => n + b.setup, 0)
    const taken = t.occupations.reduce((n, o) => n + o.to - o.from, 0)
    const back = t.blocks.length > 0 ? t.back : 0
    walk += ways + back
    setup += sets
    wait += last - t.turn.start - insideOf(t.turn.breaks, t.turn.start, last) - ways - sets - taken
    busy[t.turn.person] = (busy[t.turn.person] ?? 0) + ways + sets + taken + back
  }
  const toldAndKept = d.jobs.flatMap((j, i) => {
    const p = byJob.get(i)
    return j.told && p?.person === j.told.person
      ? [{ person: p.person, told: j.told.start, now: p.start }]
      : []
  })
  const parts = {
    late,
    walk: w.walk * walk,
    setup: w.setup * setup,
    wait: w.wait * wait,
    spread: w.spread * spreadOf(d, busy),
    otherPerson,
    reversed: w.reversed * reversedIn(toldAndKept),
    later,
    dropped,
  }
  return { unplaced, points: Object.values(parts).reduce((a, b) => a + b, 0), parts }
}

/** Difference of the fullest and the emptiest day, % of each person's time. */
export function spreadOf(d: Day, busy: readonly number[]): number {
  const shares = d.people.flatMap((p, i) =>
    p.capacity > 0 ? [Math.floor((100 * (busy[i] ?? 0)) / p.capacity)] : [],
  )
  return shares.length === 0 ? 0 : Math.max(...shares) - Math.min(...shares)
}

/** Pairs of jobs that one person was told in another order: of those who still do what they were told. */
export function reversedIn(
  his: readonly { readonly person: number; readonly told: number; readonly now: number }[],
): number {
  let pairs = 0
  his.forEach((a, i) => {
    for (const b of his.slice(i + 1))
      if (a.person === b.person && (a.told - b.told) * (a.now - b.now) < 0) pairs++
  })
  return pairs
}

/** Whether every occupation lies in a turn: only then a plan that breaks rules has a cost. */
export const liesInTurns = (d: Day, placed: readonly Placed[]): boolean =>
  placed.flatMap((p) => occupationsOf(d, p)).every((o) => o.turn >= 0)
