import { REFERENCES, type ReferenceKind } from '@calm/core/verify/reference-comparison'
import { z } from 'zod'

const KINDS = Object.keys(REFERENCES) as [ReferenceKind, ...ReferenceKind[]]
const pct = z.number().min(0, 'Not below 0.').max(100, 'At most 100 %.')

/** Readings or totals held against a reference. */
export const NewComparison = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  revision: z.int().min(1),
  kind: z.enum(KINDS),
  unit: z.string().min(1).max(20),
  Uref_pct: pct,
  Umeter_pct: pct,
  tolerance_pct: pct,
  runs: z
    .array(
      z.strictObject({
        reference: z.number().refine((x) => x !== 0, 'A reference of 0 tells nothing.'),
        indicated: z.number(),
        path: z.union([z.literal(1), z.literal(2)]).nullable(),
      }),
    )
    .min(1, 'At least one run.')
    .max(60),
  note: z.string().trim().max(300).default(''),
})
export type NewComparison = z.output<typeof NewComparison>

/** A comparison in the record, with what came out of it then. */
export const KeptComparison = z.object({
  ...NewComparison.shape,
  byName: z.string(),
  errors_pct: z.array(z.number()),
  U_pct: z.number(),
  passes: z.boolean(),
  says: z.array(z.string()),
})
export type KeptComparison = z.output<typeof KeptComparison>
