import { z } from 'zod'

/** First line of a backup; the rows of its tables follow, one a line, then its last line. */
export const FirstLine = z.object({
  format: z.literal('calm-loop-plant'),
  version: z.literal(2),
  /** Name of the newest change of the database's shape. */
  shape: z.string(),
  madeAt: z.string(),
  /** How many lines each table has, in their order. */
  rows: z.record(z.string(), z.int().min(0)),
})
export type FirstLine = z.infer<typeof FirstLine>

/** Last line: SHA-256 of everything before it. */
export const LastLine = z.object({ sha256: z.string() })

/** How far a backup or a restore is. */
export interface Progress {
  readonly does: string
  readonly done: number
  readonly of: number
}
export type Tell = (p: Progress) => void
