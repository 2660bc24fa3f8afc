import { z } from 'zod'

export const Phase = z.enum(['asFound', 'asLeft'])
export type Phase = z.output<typeof Phase>

/** One typed value: what was typed and the number used, in the unit that the run gives the column. */
export const Typed = z.strictObject({
  value: z.number().min(-1e15).max(1e15),
  typed: z.string().max(40),
})
export type Typed = z.output<typeof Typed>

export const COLUMNS = ['applied', 'pv', 'loopCurrent_mA', 'controller'] as const
export type Column = (typeof COLUMNS)[number]

/** Place of a row in the plan. */
export const RowIndex = z.int().min(0).max(60)

/** A phase as it is said. */
export const PHASE_WORDS: Readonly<Record<Phase, string>> = { asFound: 'as found', asLeft: 'as left' }
