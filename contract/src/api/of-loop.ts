import { z } from 'zod'

/** A loop by its tag or its identifier. */
export const ofLoop = z.object({
  loop: z.string().min(1).max(80).describe('Tag, whatever the case, or identifier'),
})
