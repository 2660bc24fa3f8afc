import { ComparisonTaskSchema, referenceCompared } from '@calm/core/record/kinds/reference-compared'
import { z } from 'zod'

/** Readings or totals held against a reference, as a page sends them. */
export const NewComparison = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  ...ComparisonTaskSchema.shape,
})
export type NewComparison = z.output<typeof NewComparison>

/** A comparison in the record, with what came out of it then. */
export const KeptComparison = z.object({
  id: z.uuid(),
  at: z.string(),
  byName: z.string(),
  ...referenceCompared.payload.shape,
})
export type KeptComparison = z.output<typeof KeptComparison>
