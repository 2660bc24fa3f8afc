import { inputVerified, LookedAtInput } from '@calm/core/record/kinds/input-verified'
import { z } from 'zod'

/** A discrete input as it is now, with its raw edges over a window. */
export const LiveInput = z.object({
  /** The instant at which its times are 0. */
  zero: z.iso.datetime(),
  t_s: z.number(),
  level: z.boolean(),
  from_s: z.number(),
  edges: z.array(z.object({ t: z.number(), level: z.boolean() })),
})
export type LiveInput = z.output<typeof LiveInput>

/** What was looked at of an input, as a page sends it. */
export const InputVerification = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  ...LookedAtInput.shape,
})
export type InputVerification = z.output<typeof InputVerification>

/** What the record keeps of it: what was looked at and what came out. */
export const InputVerified = z.object(inputVerified.payload.shape)
export type InputVerified = z.output<typeof InputVerified>
