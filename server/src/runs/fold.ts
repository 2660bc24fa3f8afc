import type { EventBody } from '@calm/contract/events'
import type { ProcedureState } from '@calm/core/procedure/run'
import type { Run } from '@calm/core/record/run'
import { authorOf, isForeign } from '@calm/core/record/authors'
import { and, asc, desc, eq, min } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { takenOf } from '../record/chain.ts'
import { applyEvent, type AnyRun } from './apply.ts'
import { events, runs } from './schema.ts'

/**
 * A run from its events, or null. Authors that came with a package are foreign in it.
 * @throws Error when stored events contradict the rules: they were checked when stored
 */
export async function anyRunOf(db: Executor, runId: string): Promise<AnyRun | null> {
  const rows = await db.select().from(events).where(eq(events.runId, runId)).orderBy(asc(events.seq))
  const taken = rows[0] ? await takenOf(db, rows[0].loopId) : []
  return rows.reduce<AnyRun | null>((before, e) => {
    const body = { type: e.type, payload: e.payload } as EventBody
    const told = applyEvent(before, { body, by: authorOf(e.seq, e.by, taken), at: isoInstant(e.at) })
    if (told.kind === 'refused') throw new Error(`stored event ${e.type}: ${told.says}`)
    return told.next
  }, null)
}

/** A verification from its events, or null. */
export async function runOf(db: Executor, runId: string): Promise<Run | null> {
  const any = await anyRunOf(db, runId)
  return any?.kind === 'verification' ? any.run : null
}

/** The newest verification of a loop, folded; null when there is none. */
export async function newestRun(db: Executor, loopId: string): Promise<Run | null> {
  const [row] = await db
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.loopId, loopId), eq(runs.kind, 'verification')))
    .orderBy(desc(runs.startedAt))
    .limit(1)
  return row ? runOf(db, row.id) : null
}

/** Where the newest procedure of a loop stands, and whether it came with a package; null when there is none. */
export async function procedureState(
  db: Executor,
  loopId: string,
): Promise<{ state: ProcedureState; foreign: boolean } | null> {
  const [row] = await db
    .select({ state: runs.state, by: runs.startedBy, seq: min(events.seq) })
    .from(runs)
    .innerJoin(events, eq(events.runId, runs.id))
    .where(and(eq(runs.loopId, loopId), eq(runs.kind, 'procedure')))
    .groupBy(runs.id)
    .orderBy(desc(runs.startedAt))
    .limit(1)
  if (!row) return null
  // Written from the folded procedure only.
  const state = row.state as ProcedureState
  return { state, foreign: isForeign(row.seq ?? 0, row.by, await takenOf(db, loopId)) }
}
