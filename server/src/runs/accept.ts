import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import { loopDrift } from '@calm/core/record/loop-drift'
import type { ChainedEvent } from '@calm/core/record/hash-chain'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { lostItsMemory, summarise } from '@calm/core/loop/summary'
import { and, eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import {
  chainedAfter,
  holdLoop,
  storeChained,
  write,
  type ChainHead,
  type Happening,
} from '../record/append.ts'
import { checkTime, isReplay } from '../record/append-once.ts'
import { documentOf } from '../record/documents.ts'
import { eventsOfRun } from '../record/events.ts'
import { takenOf } from '../record/authors.ts'
import { newestOfInput } from '../record/newest-input.ts'
import { applyEvent, foldEvents, type AnyRun } from '../record/fold.ts'
import { columnsOf } from '../record/project.ts'
import { adjustedAtOf, pastErrorsOf, standOf } from '../record/runs.ts'
import { loops, runs } from '../record/schema.ts'
import { standingOf, type Standing } from '../record/standing.ts'
import { storeStep } from '../record/store-step.ts'
import type { DeviceLink } from '../devices/link.ts'
import { actAtDevice } from './act.ts'
import { checkEvent } from './checks.ts'
import { writeIntoSensor } from './sensor-written.ts'

/** A run of this loop from its events; null where there is none of it here. */
async function runOfLoop(tx: Executor, loopId: string, runId: string): Promise<AnyRun | null> {
  const [row] = await tx
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.id, runId), eq(runs.loopId, loopId)))
  return row ? foldEvents(await eventsOfRun(tx, runId), await takenOf(tx, loopId)) : null
}

/**
 * Accepts events of runs into a loop's record, all or none. Events that are here already are passed over,
 * so that sending again after a lost answer changes nothing.
 * @returns how many were new.
 */
export async function acceptEvents(
  db: Database,
  idOrTag: string,
  sent: readonly NewEvent[],
  person: Person,
  link: DeviceLink,
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
    const { row, head } = await holdLoop(tx, idOrTag)
    const loopId = row.id
    const standing = await standingOf(
      tx,
      loopId,
      sent.map((e) => e.id),
      [...new Set(sent.map((e) => e.runId))],
    )
    const folded = new Map([...standing.runs].map(([id, { any }]): [string, AnyRun | null] => [id, any]))
    let happenings: Happening[] = []
    const changed = new Set<string>()
    let accepted = 0
    const store = async () => {
      await write(tx, head, happenings, now)
      accepted += happenings.length
      happenings = []
    }
    let begun = false
    const seen = new Set<string>()
    for (const [i, event] of sent.entries()) {
      const { id, runId, at, body } = event
      const stored = standing.stored.find((e) => e.id === id)
      if (stored || seen.has(id)) {
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
      seen.add(id)
      if ((standing.runs.get(runId)?.row.loopId ?? loopId) !== loopId)
        throw conflict('This run belongs to another loop.', { eventId: id })
      const before = folded.get(runId) ?? null
      const begins =
        body.type === 'run.started' || body.type === 'procedure.started' ? body.payload.revision : null
      // Who signs is held against what was read, also where both come in one send.
      if (body.type === 'signed' || body.type === 'procedure.signed') await store()
      const path = `events.${i}`
      checkTime(at, now, `${path}.at`, before?.run.startedAt, { eventId: id })
      const runOf = async (id: string) => folded.get(id) ?? (await runOfLoop(tx, loopId, id))
      await checkEvent(
        tx,
        { event, path, loopId, revision: row.revision, now, person, runOf, after: sent.slice(i + 1) },
        before,
      )
      // In the one form that reading the event back gives: what is kept is what its events tell, to the letter.
      const next = applyEvent(before, { ...body, by: person.id, at: isoInstant(new Date(at)) })
      if (next.kind === 'refused')
        throw conflict(next.says, { errors: [{ path: `${path}.body`, says: next.says }], eventId: id })
      await actAtDevice(tx, { link, event, path, loopId, now }, before)
      await writeIntoSensor(tx, event, before, standing.document, person, now)
      if (before === null && begins !== null) {
        begun = true
        await tx.insert(runs).values({
          id: runId,
          loopId,
          kind: next.next.kind,
          procedure: next.next.kind === 'procedure' ? next.next.run.started.procedure : null,
          state: next.next.run.state,
          revision: begins,
          startedAt: new Date(at),
          startedBy: person.id,
        })
      }
      folded.set(runId, next.next)
      changed.add(runId)
      happenings.push({ id, runId, type: body.type, at: new Date(at), by: person.id, payload: body.payload })
    }
    const last = chainedAfter(head, happenings, now)
    accepted += last.length
    if (accepted > 0) await settle(tx, { tag: row.tag, head, standing, folded, changed, begun, last })
    return accepted
  })
}

interface Settled {
  readonly tag: string
  readonly head: ChainHead
  readonly standing: Standing
  readonly folded: ReadonlyMap<string, AnyRun | null>
  readonly changed: ReadonlySet<string>
  readonly begun: boolean
  /** Events that are stored together with the rows. */
  readonly last: readonly ChainedEvent[]
}

/** The newest run of a kind as it stands after the events. */
function newestOf(
  { folded }: Settled,
  standing: Standing,
  kind: AnyRun['kind'],
): { readonly id: string; readonly any: AnyRun } | null {
  const before = standing.newest[kind]
  return [...folded].reduce<{ id: string; any: AnyRun } | null>((newest, [id, any]) => {
    if (any?.kind !== kind || (standing.runs.has(id) && id !== before)) return newest
    return newest && newest.any.run.startedAt > any.run.startedAt ? newest : { id, any }
  }, null)
}

/** Rows of the changed runs and of the loop: where its record ends, what lists show of it, and the news of it. */
async function settle(tx: Executor, s: Settled): Promise<void> {
  const { standing, head, changed, folded } = s
  const { loopId } = head
  const verification = newestOf(s, standing, 'verification')
  const run = verification?.any.kind === 'verification' ? verification.any.run : null
  const pathOf = async (id: string, any: AnyRun) =>
    standing.runs.get(id)?.path ?? (await documentOf(tx, loopId, any.run.started.revision)).path
  // Of the newest and of those that change just now everything is known; of the others their rows.
  const newest = newestOf(s, standing, 'procedure')
  const known = new Map(folded)
  if (newest) known.set(newest.id, newest.any)
  const { document } = standing
  const summary = summarise(
    document,
    run,
    verification ? await pathOf(verification.id, verification.any) : [],
    standOf(standing.procedures, known),
    document.path.length === 0 ? await newestOfInput(tx, loopId) : null,
    adjustedAtOf(standing.adjusted, folded),
    run && lostItsMemory(document) ? await documentOf(tx, loopId, run.started.revision) : null,
  )
  let drifted = false
  const updates = []
  for (const id of changed) {
    const any = folded.get(id)
    if (!any) continue
    // The newest one was judged for the lists just now.
    const columns = columnsOf(
      any,
      await pathOf(id, any),
      id === verification?.id ? summary.verdict : undefined,
    )
    const before = standing.runs.get(id)?.row.errors ?? null
    drifted ||= canonicalJson(columns.errors ?? null) !== canonicalJson(before)
    updates.push({ id, columns })
  }
  const [last, ...others] = updates
  for (const u of others) await tx.update(runs).set(u.columns).where(eq(runs.id, u.id))
  if (!last) return storeChained(tx, s.last)
  const what = s.begun ? 'run' : 'events'
  await storeStep(tx, { ...last, head, summary, events: s.last, news: { loopId, tag: s.tag, what } })
  if (!drifted) return
  const drift = loopDrift(await pastErrorsOf(tx, loopId), document.interval_months)
  await tx.update(loops).set({ drift }).where(eq(loops.id, loopId))
}
