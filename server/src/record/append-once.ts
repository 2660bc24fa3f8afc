import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { eq } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { tellWindows } from '../loops/store.ts'
import { events } from '../runs/schema.ts'
import { append, holdLoop } from './append.ts'

/** Adds an event that belongs to no run to a loop's record; the same one sent again changes nothing. */
export async function appendOnce(
  db: Database,
  loopId: string,
  event: { readonly id: string; readonly at: string; readonly type: string; readonly payload: unknown },
  person: Person,
): Promise<boolean> {
  const { id, at, type, payload } = event
  return db.transaction(async (tx) => {
    const { row, head } = await holdLoop(tx, loopId)
    const [here] = await tx.select().from(events).where(eq(events.id, id))
    if (here) {
      if (
        here.loopId !== loopId ||
        here.type !== type ||
        canonicalJson(here.payload) !== canonicalJson(payload)
      )
        throw conflict('An event with this identifier was recorded with other contents.')
      return false
    }
    await append(tx, head, [{ id, runId: null, type, at: new Date(at), by: person.id, payload }])
    await tellWindows(tx, { loopId, tag: row.tag, what: 'events' })
    return true
  })
}
