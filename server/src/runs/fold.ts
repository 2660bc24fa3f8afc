import { foldRun, type Happened, type Run } from '@calm/core/record/run'
import type { RunEventBody } from '@calm/core/record/run-events'
import { asc, desc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { events, runs } from './schema.ts'

const happened = (e: typeof events.$inferSelect): Happened => ({
  body: { type: e.type, payload: e.payload } as RunEventBody,
  by: e.by,
  at: isoInstant(e.at),
})

/** A run from its events, or null. */
export async function runOf(db: Executor, runId: string): Promise<Run | null> {
  const rows = await db.select().from(events).where(eq(events.runId, runId)).orderBy(asc(events.seq))
  return foldRun(rows.map(happened))
}

/** The newest verification of a loop, folded; null when there is none. */
export async function newestRun(db: Executor, loopId: string): Promise<Run | null> {
  const [row] = await db
    .select({ id: runs.id })
    .from(runs)
    .where(eq(runs.loopId, loopId))
    .orderBy(desc(runs.startedAt))
    .limit(1)
  return row ? runOf(db, row.id) : null
}
