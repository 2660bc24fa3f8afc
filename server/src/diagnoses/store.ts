import type { NewDiagnosis } from '@calm/contract/diagnoses'
import type { Person } from '@calm/contract/people'
import type { Database } from '../db/connection.ts'
import { appendOnce } from '../record/append-once.ts'

export const DIAGNOSIS = 'diagnosis.recorded'

/** Adds a diagnosis to a loop's record; the same one sent again changes nothing. */
export function recordDiagnosis(
  db: Database,
  loopId: string,
  diagnosis: NewDiagnosis,
  person: Person,
  now = new Date(),
) {
  const { id, at, ...payload } = diagnosis
  return appendOnce(db, loopId, { id, at, type: DIAGNOSIS, payload }, person, now)
}
