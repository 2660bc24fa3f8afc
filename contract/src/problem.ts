import { z } from 'zod'

/** What every failure looks like over HTTP (RFC 9457), with the path of each wrong value. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
  /** Field path and sentence of each wrong value. */
  errors: z.array(z.object({ path: z.string(), says: z.string(), code: z.string().optional() })).optional(),
  requestId: z.string().optional(),
})
export type Problem = z.output<typeof Problem>
