import { z } from 'zod'
import { REFERENCES, type ReferenceKind } from '../../verify/reference-comparison.ts'
import { defineKind } from './kind.ts'

const KINDS = Object.keys(REFERENCES) as [ReferenceKind, ...ReferenceKind[]]
const pct = z.number().min(0, 'Not below 0.').max(100, 'At most 100 %.')

/** Readings or totals to be held against a reference. */
export const ComparisonTaskSchema = z.strictObject({
  revision: z.int().min(1),
  kind: z.enum(KINDS),
  unit: z.string().min(1).max(20),
  Uref_pct: pct,
  Umeter_pct: pct,
  tolerance_pct: pct,
  runs: z
    .array(
      z.strictObject({
        reference: z.number().refine((x) => x !== 0, 'A reference of 0 says nothing.'),
        indicated: z.number(),
        path: z.union([z.literal(1), z.literal(2)]).nullable(),
      }),
    )
    .min(1, 'At least one run.')
    .max(60),
  note: z.string().trim().max(300).default(''),
})

/** They were held against it, with what came out then. */
export const referenceCompared = defineKind({
  type: 'reference.compared',
  of: 'loop',
  payload: z.strictObject({
    ...ComparisonTaskSchema.shape,
    errors_pct: z.array(z.number()),
    U_pct: z.number(),
    passes: z.boolean(),
    says: z.array(z.string()),
  }),
  title: 'Held against a reference',
  says: (p) => p.says.join('\n'),
})
