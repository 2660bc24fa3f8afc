import { setTimeout as pause } from 'node:timers/promises'
import type { Outcome, Pool } from './pool.ts'
import { resultOf } from './result.ts'
import type { Work } from './work.ts'

/** Others come first: a piece that found no free thread is asked for again after a while. */
const AGAIN_AFTER_MS = 1_500
const MOST_TRIES = 40

/** One of many pieces of something long, however busy the threads are; null where it takes too long or too much. */
export async function inItsTurn<In, Out>(
  pool: Pool,
  work: Work<In, Out>,
  input: In,
  signal: AbortSignal,
): Promise<Out | null> {
  let told: Outcome<Out> = { kind: 'busy' }
  for (let i = 0; i < MOST_TRIES && told.kind === 'busy'; i++) {
    if (i > 0) await pause(AGAIN_AFTER_MS, undefined, { signal })
    told = await pool.run(work, input, { signal })
  }
  return resultOf(told)
}
