import { z } from 'zod'

const Errors = z.array(z.tuple([z.number(), z.number()]))
/** Errors of a closed verification by level, % of span. */
export const PastErrorsSchema = z.object({
  at: z.string(),
  found: Errors,
  left: Errors,
  T_pct: z.number(),
  used: z.number(),
  /** From before this record, entered later. */
  entered: z.literal(true).optional(),
})
export const LoopHistory = z.object({
  past: z.array(PastErrorsSchema),
  interval_months: z.int().nullable(),
})
export type LoopHistory = z.output<typeof LoopHistory>

/** One row of the plant's list of who drifts. */
export const DriftRow = z.object({
  id: z.uuid(),
  tag: z.string(),
  service: z.string(),
  area: z.string(),
  interval_months: z.int().nullable(),
  verifications: z.int(),
  /** Three periods or more. */
  enough: z.boolean(),
  significant: z.boolean(),
  rate_pctYear: z.number().nullable(),
  T_pct: z.number(),
  used: z.number(),
  /** Earliest day on which the tolerance may be left; null where no drift is shown. */
  leavesOn: z.string().nullable(),
  byDrift_months: z.int().nullable(),
  staircase_months: z.int(),
  recommended_months: z.int(),
})
export type DriftRow = z.output<typeof DriftRow>
