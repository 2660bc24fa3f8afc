import { isRefused, refused, type Refused } from '../refused.ts'
import { lowerBound } from './bound.ts'
import { brokenRules, type Broken } from './check.ts'
import { placingBeside } from './insert.ts'
import { costOf } from './cost.ts'
import { movedBehind } from './move.ts'
import { turnAt, turnPlans } from './occupations.ts'
import { dayOf, isoOf, minuteOf, placingOf, type PlanProblem, type Placing } from './problem.ts'
import { type Reason, reasonsOf } from './reasons.ts'
import { sayBroken } from './say-broken.ts'
import { sightedOf } from './sight.ts'

/** A plan as it stands, whoever made it: what it breaks, why each job is where it is, when the way to it begins. */
export interface Weighed {
  readonly broken: readonly (Broken & { readonly says: string })[]
  readonly reasons: readonly Reason[]
  readonly leaves: Readonly<Record<string, string>>
}

/**
 * @param clock - how an instant is said
 * @param isOver - reasons that are not found by then are left out
 * @param withReasons - not before anything was planned: then every job would be told why it is not
 */
export function weighPlan(
  problem: PlanProblem,
  placings: readonly Placing[],
  clock: (minute: number) => string,
  withReasons = true,
  isOver: () => boolean = () => false,
): Weighed | Refused {
  const d = dayOf(problem)
  if (isRefused(d)) return d
  const sighted = sightedOf(d, placings)
  const placed = sighted.filter(
    (p, i) => p.says.unknown.length === 0 && sighted.findIndex((x) => x.job === p.job) === i,
  )
  const mains = turnPlans(d, placed).flatMap((t) => t.blocks.filter((b) => b.kind === 'main'))
  return {
    broken: brokenRules(d, sighted).map((b) => ({ ...b, says: sayBroken(d, b, clock) })),
    reasons: withReasons ? reasonsOf(d, placed, lowerBound(d), clock, isOver) : [],
    leaves: Object.fromEntries(mains.map((b) => [d.jobs[b.job]?.id ?? '', isoOf(b.from - b.walk - b.setup)])),
  }
}

/**
 * A plan with a job moved behind another one of a person's, or to the beginning of a turn of theirs.
 * @param to - the person and the job before it; null: it comes first in the turn that begins on or after `from`
 */
export function moveInPlan(
  problem: PlanProblem,
  placings: readonly Placing[],
  moved: Placing,
  to: { readonly person: string; readonly after: string | null; readonly from: string },
): readonly Placing[] | Refused {
  const d = dayOf(problem)
  if (isRefused(d)) return d
  const placed = sightedOf(d, placings).filter((p) => p.says.unknown.length === 0)
  const [m] = sightedOf(d, [moved])
  const person = d.people.findIndex((x) => x.id === to.person)
  const before = placed.find((p) => d.jobs[p.job]?.id === to.after && p.person === person)
  const turn = before
    ? turnAt(d, person, before.start)
    : d.turns.findIndex((t) => t.person === person && t.to > minuteOf(to.from))
  if (!m || m.job < 0 || turn < 0)
    return refused(
      'This person is not there on that day. Say who is there first.',
      'to.person',
      'OUT_OF_SHIFT',
    )
  return movedBehind(d, placed, { ...m, person }, turn, before ? before.job : -1).map((p) => placingOf(d, p))
}

/** A plan with a job put where there is room for it and all others where they are; null: there is no room. */
export function putWhereRoomIs(
  problem: PlanProblem,
  placings: readonly Placing[],
  job: string,
): readonly Placing[] | null {
  const d = dayOf(problem)
  if (isRefused(d)) return null
  const placed = sightedOf(d, placings).filter((p) => p.says.unknown.length === 0)
  const at = d.jobs.findIndex((j) => j.id === job)
  const room = at < 0 ? null : placingBeside(d, placed, at)
  return room && [...placings, placingOf(d, room)]
}

/** What a plan costs that breaks no rule; null where it breaks one, or names what nobody knows. */
export function soundCost(
  problem: PlanProblem,
  placings: readonly Placing[],
): { readonly unplaced: number; readonly points: number } | null {
  const d = dayOf(problem)
  if (isRefused(d)) return null
  const sighted = sightedOf(d, placings)
  return brokenRules(d, sighted).length > 0 ? null : costOf(d, sighted)
}
