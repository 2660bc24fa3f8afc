import type { PlanProblem, Placing } from '@calm/core/plan/problem'
import type { Weighed } from '@calm/core/plan/weigh'
import { isRefused } from '@calm/core/refused'
import { conflict } from '../http/problems.ts'
import { sha256 } from '../record/digest.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { weighDay } from './work.ts'

/** So many plans are remembered as they were weighed: each window of the plant asks for the same few. */
const MOST_KEPT = 40

export type Weigh = (
  problem: PlanProblem,
  placings: readonly Placing[],
  zone: string,
  withReasons: boolean,
  gone: AbortSignal,
) => Promise<Weighed>

/** Judges plans in the pool, each once. @throws HttpProblem 409, 503 */
export function weigher(pool: Pool): Weigh {
  const kept = new Map<string, Weighed>()
  return async (problem, placings, zone, withReasons, gone) => {
    const asked = { problem, placings, zone, withReasons }
    const key = sha256(JSON.stringify(asked))
    const known = kept.get(key)
    if (known) return known
    const told = resultOf(await pool.run(weighDay, asked, { signal: gone }))
    if (!told) throw conflict('This plan takes too long to judge: plan fewer days at once.')
    if (isRefused(told)) throw conflict(told.says)
    kept.set(key, told)
    const [oldest] = kept.keys()
    if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest)
    return told
  }
}
