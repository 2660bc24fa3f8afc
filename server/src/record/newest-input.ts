import { inputVerified } from '@calm/core/record/kinds/input-verified'
import type { Executor } from '../db/connection.ts'
import { newestOfKind } from './events.ts'

/** How the newest verification of an input came out; null without one. */
export async function newestOfInput(
  db: Executor,
  loopId: string,
): Promise<{ passes: boolean; on: string } | null> {
  const newest = await newestOfKind(db, loopId, inputVerified.type)
  return newest && { passes: inputVerified.payload.parse(newest.payload).passes, on: newest.at.slice(0, 10) }
}
