import { loopDrift, type PastErrors } from '@calm/core/record/loop-drift'
import { and, asc, eq, isNotNull } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { runs } from '../runs/schema.ts'

/** Errors of a loop's closed verifications, oldest first. */
export async function pastOf(db: Executor, loopId: string): Promise<PastErrors[]> {
  const rows = await db
    .select({ errors: runs.errors })
    .from(runs)
    .where(and(eq(runs.loopId, loopId), isNotNull(runs.errors)))
    .orderBy(asc(runs.startedAt))
  return rows.flatMap((r) => r.errors ?? [])
}

/** The drift of a loop as lists show it. */
export const driftOfLoop = async (db: Executor, loopId: string, interval: number | null) =>
  loopDrift(await pastOf(db, loopId), interval)
