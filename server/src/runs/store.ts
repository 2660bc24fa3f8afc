import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { desc, eq, inArray } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { equipmentByIds } from '../equipment/store.ts'
import { conflict, HttpProblem, notAllowed, notFound } from '../http/problems.ts'
import { refreshSummary, tellWindows } from '../loops/store.ts'
import { people } from '../people/schema.ts'
import { append, holdLoop, type Happening } from '../record/append.ts'
import { columnsOf } from './columns.ts'
import { anyRunOf, applyEvent, type AnyRun } from './fold.ts'
import { events, runs } from './schema.ts'

type EventRow = typeof events.$inferSelect

export async function runsOfLoop(db: Executor, loopId: string) {
  const rows = await db
    .select({ run: runs, startedByName: people.shownName })
    .from(runs)
    .innerJoin(people, eq(people.id, runs.startedBy))
    .where(eq(runs.loopId, loopId))
    .orderBy(desc(runs.startedAt))
  return rows.map(({ run, startedByName }) => ({
    ...run,
    kind: run.kind === 'procedure' ? ('procedure' as const) : ('verification' as const),
    startedAt: isoInstant(run.startedAt),
    startedBy: startedByName,
  }))
}

export async function runRow(db: Executor, runId: string) {
  const [row] = await db.select().from(runs).where(eq(runs.id, runId))
  if (!row) throw notFound('run')
  return row
}

/** Work is not begun with an instrument whose certificate has ended. */
async function checkEquipment(tx: Executor, event: NewEvent): Promise<void> {
  if (event.body.type !== 'procedure.started') return
  const day = event.at.slice(0, 10)
  const expired = (await equipmentByIds(tx, event.body.payload.equipment)).find((e) => e.dueOn < day)
  if (expired)
    throw conflict(`The certificate of ${expired.name} ended on ${expired.dueOn}. Choose another instrument.`)
}

/** Who may sign as what, and with which equipment. */
async function checkSignature(
  tx: Executor,
  any: AnyRun | null,
  event: NewEvent,
  person: Person,
): Promise<void> {
  if (event.body.type !== 'signed' && event.body.type !== 'returned') return
  const run = any?.kind === 'verification' ? any.run : null
  const asReviewer = event.body.type === 'returned' || event.body.payload.as === 'reviewer'
  if (asReviewer && person.role !== 'reviewer')
    throw notAllowed('Only a reviewer may countersign or return a record.')
  if (asReviewer || !run) return
  const day = run.startedAt.slice(0, 10)
  const expired = (await equipmentByIds(tx, run.started.equipment)).filter((e) => e.dueOn < day)
  if (expired[0])
    throw conflict(
      `${expired[0].name} had no valid certificate on ${day}: it ended on ${expired[0].dueOn}. Repeat the readings with valid equipment.`,
    )
}

function sameEvent(stored: EventRow, sent: NewEvent): boolean {
  return (
    stored.type === sent.body.type &&
    stored.runId === sent.runId &&
    canonicalJson(stored.payload) === canonicalJson(sent.body.payload)
  )
}

/**
 * Accepts events of runs into a loop's record, all or none. Events that are here already are passed over,
 * so that sending again after a lost answer changes nothing.
 * @returns how many were new.
 */
export async function acceptEvents(
  db: Database,
  loopId: string,
  sent: readonly NewEvent[],
  person: Person,
): Promise<number> {
  return db.transaction(async (tx) => {
    const { row, head } = await holdLoop(tx, loopId)
    const here = await tx
      .select()
      .from(events)
      .where(
        inArray(
          events.id,
          sent.map((e) => e.id),
        ),
      )
    const folded = new Map<string, AnyRun | null>()
    const happenings: Happening[] = []
    const begun: string[] = []
    /** Lists show where a procedure stands, not its steps: most steps change nothing there. */
    let listed = false
    const seen = new Set<string>()
    for (const [i, event] of sent.entries()) {
      const stored = here.find((e) => e.id === event.id)
      if (stored || seen.has(event.id)) {
        if (stored && !sameEvent(stored, event))
          throw conflict('An event with this identifier was recorded with other contents.')
        continue
      }
      seen.add(event.id)
      if (!folded.has(event.runId)) {
        const [existing] = await tx.select().from(runs).where(eq(runs.id, event.runId))
        if (existing && existing.loopId !== loopId) throw conflict('This run belongs to another loop.')
        folded.set(event.runId, existing ? await anyRunOf(tx, event.runId) : null)
      }
      const before = folded.get(event.runId) ?? null
      const begins =
        event.body.type === 'run.started' || event.body.type === 'procedure.started'
          ? event.body.payload.revision
          : null
      if (begins !== null && begins > row.revision)
        throw new HttpProblem(422, 'wrong-values', 'Some values cannot be used.', [
          { path: `events.${i}.body.payload.revision`, says: `The loop has ${row.revision} revisions.` },
        ])
      await checkEquipment(tx, event)
      await checkSignature(tx, before, event, person)
      const next = applyEvent(before, { body: event.body, by: person.id, at: event.at })
      if (next.kind === 'refused')
        throw conflict(next.says, {
          errors: [{ path: `events.${i}.body`, says: next.says }],
          eventId: event.id,
        })
      if (before === null && begins !== null) {
        begun.push(event.runId)
        await tx.insert(runs).values({
          id: event.runId,
          loopId,
          kind: next.next.kind,
          procedure: next.next.kind === 'procedure' ? next.next.run.started.procedure : null,
          state: next.next.run.state,
          revision: begins,
          startedAt: new Date(event.at),
          startedBy: person.id,
        })
      }
      listed ||= next.next.kind === 'verification' || next.next.run.state !== before?.run.state
      folded.set(event.runId, next.next)
      happenings.push({
        id: event.id,
        runId: event.runId,
        type: event.body.type,
        at: new Date(event.at),
        by: person.id,
        payload: event.body.payload,
      })
    }
    if (happenings.length === 0) return 0
    await append(tx, head, happenings)
    for (const [runId, any] of folded) {
      if (!any || !happenings.some((h) => h.runId === runId)) continue
      await tx
        .update(runs)
        .set(await columnsOf(tx, loopId, any))
        .where(eq(runs.id, runId))
    }
    if (listed) await refreshSummary(tx, loopId)
    await tellWindows(tx, { loopId, tag: row.tag, what: begun.length > 0 ? 'run' : 'events' })
    return happenings.length
  })
}
