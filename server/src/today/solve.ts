import { workOut } from '@calm/core/plan/solve'
import { weighPlan } from '@calm/core/plan/weigh'
import { wallOf } from '@calm/core/today/wall-time'
import type { solveDay, weighDay } from './work.ts'

type Takes<W> = W extends { readonly types?: { readonly takes: infer In } } ? In : never

const clockIn = (zone: string) => (minute: number) => wallOf(minute * 60_000, zone).time

/** In the pool's thread: plans a day within its time. */
export function solvedDay({ problem, seed, method, milliseconds }: Takes<typeof solveDay>) {
  const begun = performance.now()
  const elapsed = () => performance.now() - begun
  return workOut(problem, seed, method, milliseconds, elapsed)
}

/** Reasons of hundreds of jobs are not waited for: what is broken is told at once. */
const REASONS_MS = 1_500

/** In the pool's thread: judges a plan as it stands. */
export function weighedDay({ problem, placings, zone, withReasons }: Takes<typeof weighDay>) {
  const begun = performance.now()
  const isOver = () => performance.now() - begun > REASONS_MS
  return weighPlan(problem, placings, clockIn(zone), withReasons, isOver)
}
