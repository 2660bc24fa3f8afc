import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { eventTimeProblem } from '@calm/core/record/event-time'
import { eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { tellWindows } from '../http/live.ts'
import { people } from '../people/schema.ts'
import { append, holdLoop } from './append.ts'
import { events, loops } from './schema.ts'
import type { StoredAlready } from './standing.ts'

/** An event as it is sent, whatever it belongs to. */
interface Sent {
  readonly id: string
  readonly runId: string | null
  readonly type: string
  readonly at: string
  readonly payload: unknown
}

/**
 * Whether an event that is stored is the very one that is sent again by the same person; what else it may be is
 * told as what it is. The time of the first one stands: a second press of a button sends its own.
 * @throws HttpProblem 409 for another's event, another loop's, or other contents
 */
export async function isReplay(
  tx: Executor,
  stored: StoredAlready,
  sent: Sent,
  loopId: string,
  by: string,
): Promise<true> {
  const refuse = (says: string) => conflict(says, { eventId: sent.id })
  if (stored.loopId !== loopId) {
    const [there] = await tx.select({ tag: loops.tag }).from(loops).where(eq(loops.id, stored.loopId))
    throw refuse(
      `This event is in the record of ${there?.tag ?? 'another loop'} already. It belongs to one loop only.`,
    )
  }
  if (stored.by !== by) {
    const [who] = await tx.select({ name: people.shownName }).from(people).where(eq(people.id, stored.by))
    throw refuse(
      `This event was recorded by ${who?.name ?? 'somebody else'} already. It cannot be sent under another name.`,
    )
  }
  if (
    stored.type !== sent.type ||
    stored.runId !== sent.runId ||
    canonicalJson(stored.payload) !== canonicalJson(sent.payload)
  )
    throw refuse('An event with this identifier was recorded with other contents.')
  return true
}

/** @throws HttpProblem 422 at the event's time */
export function checkTime(
  at: string,
  recordedAt: Date,
  path: string,
  runBegan?: string,
  extra: Readonly<Record<string, unknown>> = {},
): void {
  const says = eventTimeProblem({ at, recordedAt: isoInstant(recordedAt), runBegan })
  if (says) throw new HttpProblem('wrong-values', 'Some values cannot be used.', [{ path, says }], extra)
}

/** Adds an event that belongs to no run to a loop's record; the same one sent again changes nothing. */
export async function appendOnce(
  db: Database,
  loopId: string,
  event: { readonly id: string; readonly at: string; readonly type: string; readonly payload: unknown },
  person: Person,
  now = new Date(),
  /** What has to stand still while it is added; asked with the loop held. */
  unless?: (tx: Executor) => Promise<void>,
): Promise<boolean> {
  const { id, at, type, payload } = event
  return db.transaction(async (tx) => {
    const { row, head } = await holdLoop(tx, loopId)
    const [here] = await tx.select().from(events).where(eq(events.id, id))
    if (here) {
      await isReplay(tx, here, { id, runId: null, type, at, payload }, loopId, person.id)
      return false
    }
    checkTime(at, now, 'at')
    await unless?.(tx)
    await append(tx, head, [{ id, runId: null, type, at: new Date(at), by: person.id, payload }], now)
    await tellWindows(tx, { loopId, tag: row.tag, what: 'events' })
    return true
  })
}
