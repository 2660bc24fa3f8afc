import { z } from 'zod'

/** A verification or procedure that waits for a signature. */
export const WaitingRecord = z.object({
  run: z.uuid(),
  kind: z.enum(['verification', 'procedure']),
  title: z.string(),
  /** Of a verification its class, of a procedure its result; null where nothing was judged. */
  verdict: z.string().nullable(),
  loop: z.string(),
  service: z.string(),
  area: z.string(),
  startedAt: z.string(),
  byName: z.string(),
  /** Signatures under it, and how many the plant asks for. */
  there: z.int(),
  asked: z.int(),
  waitsFor: z.enum(['performed', 'reviewed']),
  /** Who asks can give it, by role and by what stands there. */
  mine: z.boolean(),
})
export type WaitingRecord = z.output<typeof WaitingRecord>
