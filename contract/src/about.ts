import { z } from 'zod'

/** What runs here. */
export const About = z.object({
  /** Version of the product, as its tag names it. */
  version: z.string(),
  node: z.string(),
  database: z.string(),
})
export type About = z.output<typeof About>
