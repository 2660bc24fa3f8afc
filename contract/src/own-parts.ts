import { OwnPart } from '@calm/core/part/own-part'
import { z } from 'zod'

/** Parts to take in: one typed from its plate, or a file of another plant's. One of the same name is replaced. */
export const TakeOwnParts = z.strictObject({
  parts: z.array(OwnPart).min(1, 'There is no part in it.').max(200),
})
