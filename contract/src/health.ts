import { z } from 'zod'

const Part = z.object({ ok: z.boolean(), says: z.string() })
export type HealthPart = z.output<typeof Part>

/** Everything that work rests on. */
export const Health = z.object({
  /** Whether work can go on: the database answers and stores. */
  ok: z.boolean(),
  database: Part,
  writing: Part,
  disk: Part,
  backup: Part,
  calculations: Part,
})
export type Health = z.output<typeof Health>
