import type { NewDiagnosis } from '@calm/contract/diagnoses'
import { diagnosisRecorded } from '@calm/core/record/kinds/diagnosis-recorded'
import type { Person } from '@calm/contract/people'
import type { Database } from '../db/connection.ts'
import { appendOnce } from '../record/append-once.ts'

/** Adds a diagnosis to a loop's record; the same one sent again changes nothing. */
export function recordDiagnosis(
  db: Database,
  loopId: string,
  diagnosis: NewDiagnosis,
  person: Person,
  now = new Date(),
) {
  const { id, at, ...payload } = diagnosis
  return appendOnce(db, loopId, { id, at, type: diagnosisRecorded.type, payload }, person, now)
}
