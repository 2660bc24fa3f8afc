import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import { desc, eq, inArray, min } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, HttpProblem, notFound } from '../http/problems.ts'
import { refreshSummary } from '../loops/store.ts'
import { append, holdLoop, type Happening } from '../record/append.ts'
import { checkTime, isReplay } from '../record/append-once.ts'
import { authorsOf } from '../record/chain.ts'
import { checkEvent } from './checks.ts'
import { columnsOf } from './columns.ts'
import { applyEvent, type AnyRun } from './apply.ts'
import { anyRunOf } from './fold.ts'
import { events, runs } from './schema.ts'

export async function runsOfLoop(db: Executor, loopId: string) {
  const rows = await db
    .select({ run: runs, seq: min(events.seq) })
    .from(runs)
    .innerJoin(events, eq(events.runId, runs.id))
    .where(eq(runs.loopId, loopId))
    .groupBy(runs.id)
    .orderBy(desc(runs.startedAt))
  const { author, name, foreign } = await authorsOf(db, loopId)
  return rows.map(({ run, seq }) => ({
    ...run,
    kind: run.kind === 'procedure' ? ('procedure' as const) : ('verification' as const),
    startedAt: isoInstant(run.startedAt),
    startedBy: name(author(seq ?? 0, run.startedBy)),
    foreign: foreign(seq ?? 0, run.startedBy),
  }))
}

export async function runRow(db: Executor, runId: string) {
  const [row] = await db.select().from(runs).where(eq(runs.id, runId))
  if (!row) throw notFound('run')
  return row
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
  now = new Date(),
): Promise<number> {
  const another = sent.findIndex((e) => e.by !== undefined && e.by !== person.id)
  if (another >= 0)
    throw new HttpProblem(
      'another-person',
      'This was done by another person and is not recorded under your name. It goes out when that person signs in.',
      [{ path: `events.${another}.by`, says: `${person.shownName} is signed in here.` }],
      { eventId: sent[another]?.id },
    )
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
    let happenings: Happening[] = []
    const changed = new Set<string>()
    let accepted = 0
    const store = async () => {
      await append(tx, head, happenings, now)
      accepted += happenings.length
      happenings = []
    }
    const begun: string[] = []
    /** Lists show where a procedure stands, not its steps: most steps change nothing there. */
    let listed = false
    const seen = new Set<string>()
    for (const [i, event] of sent.entries()) {
      const stored = here.find((e) => e.id === event.id)
      if (stored || seen.has(event.id)) {
        const { id, runId, at, body } = event
        if (stored)
          await isReplay(
            tx,
            stored,
            { id, runId, at, type: body.type, payload: body.payload },
            loopId,
            person.id,
          )
        continue
      }
      seen.add(event.id)
      if (!folded.has(event.runId)) {
        const [existing] = await tx.select().from(runs).where(eq(runs.id, event.runId))
        if (existing && existing.loopId !== loopId)
          throw conflict('This run belongs to another loop.', { eventId: event.id })
        folded.set(event.runId, existing ? await anyRunOf(tx, event.runId) : null)
      }
      const before = folded.get(event.runId) ?? null
      const begins =
        event.body.type === 'run.started' || event.body.type === 'procedure.started'
          ? event.body.payload.revision
          : null
      // Who signs is held against what was read, also where both come in one send.
      if (event.body.type === 'signed') await store()
      const path = `events.${i}`
      checkTime(event.at, now, `${path}.at`, before?.run.startedAt, { eventId: event.id })
      await checkEvent(tx, { event, path, loopId, revision: row.revision, now, person }, before)
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
      changed.add(event.runId)
      happenings.push({
        id: event.id,
        runId: event.runId,
        type: event.body.type,
        at: new Date(event.at),
        by: person.id,
        payload: event.body.payload,
      })
    }
    await store()
    if (accepted === 0) return 0
    for (const [runId, any] of folded) {
      if (!any || !changed.has(runId)) continue
      await tx
        .update(runs)
        .set(await columnsOf(tx, loopId, any))
        .where(eq(runs.id, runId))
    }
    if (listed) await refreshSummary(tx, loopId)
    await tellWindows(tx, { loopId, tag: row.tag, what: begun.length > 0 ? 'run' : 'events' })
    return accepted
  })
}
