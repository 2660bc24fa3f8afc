import { LoopDocument } from '@calm/core/loop/document'
import { FloorSchema } from '@calm/core/loop/floor'
import { STAGE_ORDER, type StageKind } from '@calm/core/signal/stage'
import { z } from 'zod'

export const PartStateSchema = z.enum(['notYet', 'good', 'look', 'stop'])

export const LoopSummarySchema = z.object({
  /** What kind of meter it is; null where nobody has told, missing in rows of before. */
  kind: z.string().nullable().optional(),
  parts: z.object({
    wire: PartStateSchema,
    setUp: PartStateSchema,
    scale: PartStateSchema,
    trim: PartStateSchema,
    verify: PartStateSchema,
  }),
  verdict: z.enum(['PASS', 'CONDITIONAL_PASS', 'CONDITIONAL_FAIL', 'FAIL']).nullable(),
  /** The device was adjusted after that verification. */
  olderThanTrim: z.literal(true).optional(),
  olderThanLoss: z.literal(true).optional(),
  /** Why it is due at once, whatever its interval says, and since which day. */
  dueNow: z.object({ on: z.string(), why: z.string() }).nullable(),
  line: z
    .array(z.object({ station: z.enum(STAGE_ORDER as [StageKind, ...StageKind[]]), error_pct: z.number() }))
    .readonly(),
})

/** One row of the plant's list. */
export const LoopRow = z.object({
  id: z.uuid(),
  tag: z.string(),
  service: z.string(),
  area: z.string(),
  /** Who looks after it; empty: nobody in particular. */
  assignee: z.string(),
  type: z.string(),
  revision: z.int(),
  /** Of the demo plant: a simulated device stands on it. */
  demo: z.boolean(),
  summary: LoopSummarySchema,
  /** Days as 2026-11-23. */
  lastCalibrated: z.string().nullable(),
  due: z.string().nullable(),
  /** Out of use since; null while it is in use. */
  archivedAt: z.string().nullable(),
})
export type LoopRow = z.output<typeof LoopRow>

export const LoopDetail = LoopRow.extend({
  document: LoopDocument,
  revisedBy: z.string(),
  revisedAt: z.string(),
})
export type LoopDetail = z.output<typeof LoopDetail>

export const NewLoop = z.strictObject({
  /** Made by the client, so that a repeated send is stored once. */
  id: z.uuid(),
  document: LoopDocument,
})

/** The same change of several loops; what is silent stays. */
export const ChangeSeveral = z.strictObject({
  loops: z.array(z.uuid()).min(1, 'Choose at least one loop.').max(500, 'At most 500 loops at once.'),
  area: z.string().trim().min(1, 'Give the area.').max(80, 'At most 80 characters.').optional(),
  floor: FloorSchema.optional(),
  /** Empty: nobody in particular. */
  assignee: z.string().trim().max(80, 'At most 80 characters.').optional(),
  interval_months: z
    .int('Whole months.')
    .min(1, 'At least 1 month.')
    .max(120, 'At most 120 months.')
    .nullable()
    .optional(),
  /** Percent of span. */
  tolerance_pct: z
    .number('Type a number.')
    .gt(0, 'Nothing could pass a tolerance of 0.')
    .max(50, 'At most 50 % of span.')
    .optional(),
  reason: z
    .string()
    .trim()
    .min(1, 'Say why: it stands with each revision.')
    .max(300, 'At most 300 characters.'),
})
export type ChangeSeveral = z.output<typeof ChangeSeveral>

export const SaveRevision = z.strictObject({
  /** The revision that was changed; when it is no longer the newest the answer is 409 with both. */
  base: z.int().min(1),
  document: LoopDocument,
  reason: z.string().trim().max(300),
})

/** The newest revision of somebody else, and the one both started from. */
export const RevisionConflict = z.object({
  base: z.object({ number: z.int(), document: LoopDocument }),
  theirs: z.object({ number: z.int(), document: LoopDocument, by: z.string(), at: z.string() }),
})
export type RevisionConflict = z.output<typeof RevisionConflict>

export const Revision = z.object({
  number: z.int(),
  document: LoopDocument,
  by: z.string(),
  at: z.string(),
  reason: z.string(),
})
export type Revision = z.output<typeof Revision>
