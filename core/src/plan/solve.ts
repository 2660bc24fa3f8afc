import { isRefused, refused, type Refused } from '../refused.ts'
import { lowerBound } from './bound.ts'
import { brokenRules } from './check.ts'
import { choicesOf } from './choices.ts'
import { type Cost, isLess } from './cost.ts'
import { solveExactly } from './exact.ts'
import { dayOf, type Day, type Placed, type PlanProblem, type Placing, placingOf } from './problem.ts'
import { type Reason, reasonsOf } from './reasons.ts'
import { searchPlan } from './search.ts'
import { known } from './sight.ts'

export interface WorkedOut {
  readonly placings: readonly Placing[]
  readonly cost: Cost
  /** No plan can be better than this; equal to the cost where that is proved. */
  readonly bound: { readonly unplaced: number; readonly points: number }
  readonly proved: boolean
  /** Steps of the search: with the seed they make the same plan again. */
  readonly steps: number
}
export interface Plan extends WorkedOut {
  readonly reasons: readonly Reason[]
}

/** More jobs than this are not tried out in every order. */
export const MOST_EXACT = 9
/** Steps of the search from which the exact method begins. */
const FIRST_STEPS = 2000
/** Nodes of the exact method in which a search is mostly done with a small day. */
const SOON_STEPS = 32_000
const ENDLESS = 10_000_000

/**
 * Plans a day: exactly, with its proof, for a few jobs; else by a search that gets better while it is let. Reasons are
 * told apart from it: they take their time.
 * @param elapsed_ms - since it was asked for; the search reads it every sixteenth step
 * @param most - steps at most; a search that was stopped by the clock is repeated by its number of steps
 */
export function workOut(
  problem: PlanProblem,
  seed: number,
  method: 'exact' | 'search',
  milliseconds: number,
  elapsed_ms: () => number,
  most = ENDLESS,
): WorkedOut | Refused {
  const told = placedBest(problem, seed, method, milliseconds, elapsed_ms, most)
  return isRefused(told) ? told : told.out
}

/** The same with a reason for every job. */
export function solvePlan(
  problem: PlanProblem,
  seed: number,
  method: 'exact' | 'search',
  milliseconds: number,
  elapsed_ms: () => number,
  most = ENDLESS,
): Plan | Refused {
  const told = placedBest(problem, seed, method, milliseconds, elapsed_ms, most)
  return isRefused(told) ? told : { ...told.out, reasons: reasonsOf(told.d, told.placed, lowerBound(told.d)) }
}

function placedBest(
  problem: PlanProblem,
  seed: number,
  method: 'exact' | 'search',
  milliseconds: number,
  elapsed_ms: () => number,
  most: number,
): { readonly d: Day; readonly placed: readonly Placed[]; readonly out: WorkedOut } | Refused {
  const d = dayOf(problem)
  if (isRefused(d)) return d
  if (method === 'exact' && d.jobs.length > MOST_EXACT)
    return refused(
      `${d.jobs.length} jobs are too many to try every order: at most ${MOST_EXACT}. Search instead.`,
      'method',
      'TOO_MANY',
    )
  const end = foundIn(d, seed, method, most, () => elapsed_ms() >= milliseconds)
  const missed = lockProblem(d, end.placed)
  if (missed) return missed
  const bound = lowerBound(d)
  const isPerfect = end.cost.unplaced === bound.unplaced && end.cost.points === bound.points
  const proved = end.proved || isPerfect
  const out: WorkedOut = {
    placings: [...end.placed].sort((a, b) => a.job - b.job).map((p) => placingOf(d, p)),
    cost: end.cost,
    bound: proved
      ? { unplaced: end.cost.unplaced, points: end.cost.points }
      : { unplaced: bound.unplaced, points: bound.points },
    proved,
    steps: end.steps,
  }
  return { d, placed: end.placed, out }
}

/**
 * The best plan that is found in so many steps. A small day is begun by the exact method: mostly it is done soon. Where
 * it is not, `search` goes on from other beginnings, and `exact` goes on to the end.
 */
function foundIn(
  d: Day,
  seed: number,
  method: 'exact' | 'search',
  most: number,
  isOver: () => boolean,
): {
  readonly placed: readonly Placed[]
  readonly cost: Cost
  readonly proved: boolean
  readonly steps: number
} {
  if (d.jobs.length > MOST_EXACT) return { ...searchPlan(d, seed, most, isOver), proved: false }
  const first = searchPlan(d, seed, Math.min(FIRST_STEPS, most), isOver)
  if (first.steps < FIRST_STEPS && d.jobs.length > 0) return { ...first, proved: false }
  const nodes = method === 'exact' ? most - first.steps : Math.min(SOON_STEPS, most - first.steps)
  const exact = solveExactly(d, first.placed, (steps) => steps >= nodes || isOver())
  const steps = first.steps + exact.steps
  if (exact.proved || method === 'exact' || steps >= most || isOver()) return { ...exact, steps }
  const other = searchPlan(d, seed + 1, most - steps, isOver)
  // A plan without what was agreed is none, however little it costs.
  const isKept = d.jobs.every((j, i) => !j.lock || other.placed.some((p) => p.job === i))
  const { placed, cost } = isKept && isLess(other.cost, exact.cost) ? other : exact
  return { placed, cost, proved: false, steps: steps + other.steps }
}

/** What was agreed and cannot be kept, with the rules that are against it. */
function lockProblem(d: Day, placed: readonly Placed[]): Refused | null {
  const missed = d.jobs.flatMap((j, i) => {
    const p = placed.find((x) => x.job === i)
    return j.lock && (p?.start !== j.lock.start || p.person !== j.lock.person) ? [i] : []
  })
  if (missed.length === 0) return null
  const locks = d.jobs.flatMap((j, i): Placed[] => {
    if (!j.lock) return []
    const c = choicesOf(d, i)[0]
    const { person, start } = j.lock
    return [
      { job: i, person, helper: j.lock.helper ?? c?.helper ?? -1, instruments: c?.instruments ?? [], start },
    ]
  })
  const broken = brokenRules(d, known(d, locks)).map((b) => `${b.code}${b.job === null ? '' : ` (${b.job})`}`)
  const names = missed.map((i) => d.jobs[i]?.id).join(', ')
  return refused(
    `What was agreed for ${names} cannot be kept${broken.length > 0 ? `: ${broken.join(', ')}` : ' beside the rest'}.`,
    'locked',
    'LOCKS',
  )
}
