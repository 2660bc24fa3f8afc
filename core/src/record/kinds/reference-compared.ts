import { z } from 'zod'
import { sayNumber } from '../../quantity/round.ts'
import { isUnitSymbol, printedUnit } from '../../quantity/units.ts'
import { measuredFlow, PULSES_PER } from '../../verify/measured-reference.ts'
import { REFERENCES, type ReferenceKind } from '../../verify/reference-comparison.ts'
import { defineKind } from './kind.ts'

const KINDS = Object.keys(REFERENCES) as [ReferenceKind, ...ReferenceKind[]]
const pct = z.number().min(0, 'Not below 0.').max(100, 'At most 100 %.')

const amount = z.number().min(0, 'Not below 0.').max(1e9)
const MeasuredSchema = z.discriminatedUnion('by', [
  z.strictObject({
    by: z.literal('weighed'),
    mass_kg: amount,
    seconds: amount,
    density_kg_m3: amount,
    massU_kg: amount,
    startStop_s: amount,
    densityU_pct: pct,
  }),
  z.strictObject({
    by: z.literal('drawn'),
    diameter_m: amount,
    from_m: z.number().min(-1e4).max(1e4),
    to_m: z.number().min(-1e4).max(1e4),
    seconds: amount,
    diameterU_m: amount,
    levelU_m: amount,
    startStop_s: amount,
  }),
  z.strictObject({
    by: z.literal('counted'),
    pulses: amount,
    seconds: amount,
    K: amount,
    per: z.enum(PULSES_PER),
    KU_pct: pct,
    startStop_s: amount,
  }),
])

/** A figure went through text on its way; more than that is another figure. */
const ROUNDING = 1e-6

/** Readings or totals to be held against a reference. */
export const ComparisonTaskSchema = z.strictObject({
  revision: z.int().min(1),
  kind: z.enum(KINDS),
  unit: z.string().refine(isUnitSymbol, 'This unit is not known. Pick one from the list.'),
  Uref_pct: pct,
  Umeter_pct: pct,
  tolerance_pct: pct,
  runs: z
    .array(
      z.strictObject({
        reference: z.number().refine((x) => x !== 0, 'A reference of 0 says nothing.'),
        indicated: z.number(),
        path: z.union([z.literal(1), z.literal(2)]).nullable(),
        measured: MeasuredSchema.optional(),
      }),
    )
    .min(1, 'At least one run.')
    .max(60),
  note: z.string().trim().max(300).default(''),
})

/** What was measured and what was reckoned from it have to be one thing. @returns what is not, at its path */
export function measuredProblems(
  task: z.output<typeof ComparisonTaskSchema>,
): { readonly path: string; readonly says: string }[] {
  return task.runs.flatMap((r, i) => {
    if (!r.measured) return []
    const f = measuredFlow(r.measured, task.unit)
    if (f.kind === 'refused') return [{ path: `runs.${i}.measured`, says: f.says }]
    if (Math.abs(f.reference - r.reference) > ROUNDING * Math.abs(f.reference))
      return [
        {
          path: `runs.${i}.reference`,
          says: `What was measured makes ${sayNumber(f.reference, 7)} ${printedUnit(task.unit)}, not ${sayNumber(r.reference, 7)}.`,
        },
      ]
    return task.Uref_pct < f.U_pct * (1 - ROUNDING)
      ? [
          {
            path: 'Uref_pct',
            says: `What was measured is known to ±${sayNumber(f.U_pct, 3)} %, not to ±${sayNumber(task.Uref_pct, 3)} %.`,
          },
        ]
      : []
  })
}

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
