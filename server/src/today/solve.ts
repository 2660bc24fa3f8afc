import { solvePlan } from '@calm/core/plan/solve'
import { weighPlan } from '@calm/core/plan/weigh'
import { wallOf } from '@calm/core/today/wall-time'
import type { solveDay, weighDay } from './work.ts'

type Takes<W> = W extends { readonly types?: { readonly takes: infer In } } ? In : never

const clockIn = (zone: string) => (minute: number) => wallOf(minute * 60_000, zone).time

/** In the pool's thread: plans a day within its time. */
export function solvedDay({ problem, seed, method, milliseconds, zone }: Takes<typeof solveDay>) {
  const begun = performance.now()
  const elapsed = () => performance.now() - begun
  return solvePlan(problem, seed, method, milliseconds, elapsed, undefined, clockIn(zone))
}

/** In the pool's thread: judges a plan as it stands. */
export const weighedDay = ({ problem, placings, zone, withReasons }: Takes<typeof weighDay>) =>
  weighPlan(problem, placings, clockIn(zone), withReasons)
