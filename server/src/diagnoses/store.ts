import type { NewDiagnosis } from '@calm/contract/diagnoses'
import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { eq } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { tellWindows } from '../loops/store.ts'
import { append, holdLoop } from '../record/append.ts'
import { events } from '../runs/schema.ts'

export const DIAGNOSIS = 'diagnosis.recorded'

/** Adds a diagnosis to a loop's record; the same one sent again changes nothing. */
export async function recordDiagnosis(
  db: Database,
  loopId: string,
  diagnosis: NewDiagnosis,
  person: Person,
): Promise<boolean> {
  const { id, at, ...payload } = diagnosis
  return db.transaction(async (tx) => {
    const { row, head } = await holdLoop(tx, loopId)
    const [here] = await tx.select().from(events).where(eq(events.id, id))
    if (here) {
      if (here.loopId !== loopId || canonicalJson(here.payload) !== canonicalJson(payload))
        throw conflict('An event with this identifier was recorded with other contents.')
      return false
    }
    await append(tx, head, [{ id, runId: null, type: DIAGNOSIS, at: new Date(at), by: person.id, payload }])
    await tellWindows(tx, { loopId, tag: row.tag, what: 'events' })
    return true
  })
}
