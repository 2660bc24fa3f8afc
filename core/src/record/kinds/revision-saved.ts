import { z } from 'zod'
import { Sha256 } from './hash.ts'
import { defineKind } from './kind.ts'

/** A revision of the loop's document was saved; the document itself is kept beside the record. */
export const revisionSaved = defineKind({
  type: 'revision.saved',
  of: 'loop',
  payload: z.strictObject({ number: z.int().min(1), reason: z.string().max(300), documentHash: Sha256 }),
  title: 'Revision',
  says: (p) => (p.reason === '' ? `Revision ${p.number} was saved.` : `Revision ${p.number}: ${p.reason}`),
})
