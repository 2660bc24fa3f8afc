import { z } from 'zod'
import { ToleranceSchema } from '../../loop/document.ts'
import { RangeSchema } from '../../signal/schema.ts'
import { DISTRIBUTIONS } from '../../statistics/budget.ts'
import { DECISION_RULES } from '../../verify/decision.ts'
import { PLAN_NAMES, pointsOf } from '../../verify/plan.ts'
import { AppliedLaw } from './applied.ts'
import { defineKind } from './kind.ts'
import { OwnPlan } from './own-plan.ts'

const TEXT = z.string().trim().max(120, 'At most 120 characters.')

const Payload = z.strictObject({
  plan: z.union([z.enum(PLAN_NAMES), OwnPlan]),
  revision: z.int().min(1),
  tolerance: ToleranceSchema,
  inputRange: RangeSchema,
  outputRange: RangeSchema,
  /** What the standard gives where that is not the loop's own quantity. */
  applies: AppliedLaw.optional(),
  equipment: z.array(z.uuid()).max(10),
  /** Expanded uncertainty of the comparison, % of span; 0 when not stated. */
  U_pct: z.number().min(0).max(50),
  /** What it was made of; absent where it was typed or not stated. */
  budget: z
    .strictObject({
      lines: z
        .array(
          z.strictObject({
            title: z.string().max(120),
            value: z.number().min(0),
            unit: z.string().max(40),
            distribution: z.enum(DISTRIBUTIONS),
            /** % of span for one of its unit. */
            c: z.number(),
            nu: z.int().min(1).optional(),
          }),
        )
        .max(40),
      missing: z.array(z.string().max(300)).max(10),
      k: z.number().positive(),
      /** By the formula, or by trials where those did not bear it out; then with their seed. */
      method: z.enum(['formula', 'trials']),
      seed: z.int().nullable(),
    })
    .optional(),
  /** How an error is accepted; simple acceptance where it was not agreed. */
  rule: z.enum(DECISION_RULES).optional(),
  /** What a certificate tells besides, as typed; nothing is judged by it. */
  circumstances: z
    .strictObject({
      order: TEXT,
      place: TEXT,
      ambient: TEXT,
      procedure: TEXT,
      maker: TEXT,
      model: TEXT,
      serial: TEXT,
    })
    .optional(),
  /** Why it is judged by something else than the recorded loop and the register; stands on every paper. */
  deviation: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }).optional(),
})
export type RunStartedPayload = z.output<typeof Payload>

/** A verification begins: everything it will be judged by is written down first. */
export const runStarted = defineKind({
  type: 'run.started',
  of: 'verification',
  payload: Payload,
  title: 'Verification begun',
  says: (p) => `Begun on revision ${p.revision} with ${pointsOf(p.plan).length} points.`,
})
