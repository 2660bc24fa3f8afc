import type { EventBody } from '@calm/contract/events'
import { applyProcedureEvent, type ProcedureRun, type ProcedureState } from '@calm/core/procedure/engine'
import { isProcedureType, type ProcedureEventBody } from '@calm/core/procedure/events'
import { applyRunEvent, type Run } from '@calm/core/record/run'
import type { RunEventBody } from '@calm/core/record/run-events'
import { and, asc, desc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { events, runs } from './schema.ts'

/** A run of either kind, folded. */
export type AnyRun =
  | { readonly kind: 'verification'; readonly run: Run }
  | { readonly kind: 'procedure'; readonly run: ProcedureRun }
type Applied =
  { readonly kind: 'next'; readonly next: AnyRun } | { readonly kind: 'refused'; readonly says: string }

/** Next state of a run of either kind; a body of the other kind does not belong to it. */
export function applyEvent(
  before: AnyRun | null,
  { body, by, at }: { readonly body: EventBody; readonly by: string; readonly at: string },
): Applied {
  if (isProcedureType(body.type)) {
    if (before?.kind === 'verification') return { kind: 'refused', says: 'This run is a verification.' }
    const told = applyProcedureEvent(before?.run ?? null, { body: body as ProcedureEventBody, by, at })
    return told.kind === 'run' ? { kind: 'next', next: { kind: 'procedure', run: told.run } } : told
  }
  if (before?.kind === 'procedure') return { kind: 'refused', says: 'This run is a procedure.' }
  const told = applyRunEvent(before?.run ?? null, { body: body as RunEventBody, by, at })
  return told.kind === 'run' ? { kind: 'next', next: { kind: 'verification', run: told.run } } : told
}

/** A run from its events, or null. @throws Error when stored events contradict the rules: they were checked when stored */
export async function anyRunOf(db: Executor, runId: string): Promise<AnyRun | null> {
  const rows = await db.select().from(events).where(eq(events.runId, runId)).orderBy(asc(events.seq))
  return rows.reduce<AnyRun | null>((before, e) => {
    const body = { type: e.type, payload: e.payload } as EventBody
    const told = applyEvent(before, { body, by: e.by, at: isoInstant(e.at) })
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

/** Where the newest procedure of a loop stands; null when there is none. */
export async function procedureState(db: Executor, loopId: string): Promise<ProcedureState | null> {
  const [row] = await db
    .select({ state: runs.state })
    .from(runs)
    .where(and(eq(runs.loopId, loopId), eq(runs.kind, 'procedure')))
    .orderBy(desc(runs.startedAt))
    .limit(1)
  // Written from the folded procedure only.
  return row ? (row.state as ProcedureState) : null
}
