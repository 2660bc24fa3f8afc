import { z } from 'zod'

const Told = z.strictObject({ value: z.number().min(-1e12).max(1e12), unit: z.string().trim().max(20) })

/** One point of a certificate from before this record, as it stood in a table or was typed. */
export const PastRowSchema = z.strictObject({
  /** In the file, from 1: what is wrong is told by it. */
  line: z.int().min(1),
  tag: z.string().trim().min(1, 'Say which loop it belongs to.').max(40),
  on: z.iso.date('Write the date as 2019-03-12.'),
  number: z.string().trim().max(60),
  by: z.string().trim().max(120),
  applied: Told,
  /** Readings, or errors in percent of span. */
  as: z.enum(['reading', 'error']),
  found: Told,
  /** Null where nothing was adjusted. */
  left: Told.nullable(),
})

/** Earlier certificates of any loops; looked at only, or kept. */
export const PastRequest = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  source: z.string().trim().max(200),
  keep: z.boolean(),
  rows: z.array(PastRowSchema).min(1, 'Nothing was sent.').max(6000, 'At most 6000 points at once.'),
})
export type PastRequest = z.output<typeof PastRequest>

export const PastAnswer = z.object({
  loops: z.int(),
  certificates: z.int(),
  /** Lines whose certificate was held back, with why. */
  wrong: z.array(z.object({ line: z.int(), says: z.string() })),
  kept: z.boolean(),
})
export type PastAnswer = z.output<typeof PastAnswer>
