import { busy } from '../http/problems.ts'
import type { Outcome } from './pool.ts'

/** What a piece of work gave; null where it would have taken too long or too much. @throws HttpProblem 503 */
export function resultOf<Out>(outcome: Outcome<Out>): Out | null {
  if (outcome.kind === 'done') return outcome.result
  if (outcome.kind === 'busy' || outcome.kind === 'given-up') throw busy()
  return null
}
