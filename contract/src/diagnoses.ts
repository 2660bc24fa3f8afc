import { StationIdSchema } from '@calm/core/signal/chain'
import { z } from 'zod'

const ByStation = z.partialRecord(StationIdSchema, z.number())

/** Where an error was found to come in: what was read, how sure, and what was concluded. */
export const NewDiagnosis = z.strictObject({
  /** Made by the client, so that a repeated send is stored once. */
  id: z.uuid(),
  at: z.iso.datetime(),
  revision: z.int().min(1),
  levels: z
    .array(z.strictObject({ values: ByStation, dir: z.union([z.literal(1), z.literal(-1)]) }))
    .min(1)
    .max(20),
  /** Expanded uncertainty by station, k = 2, in its unit. */
  U: ByStation,
  /** The conclusion in words, as it stood on the screen. */
  says: z.array(z.string().trim().max(600)).max(12),
})
/** What the record shows of a diagnosis. */
export const DiagnosisSays = z.object({ says: NewDiagnosis.shape.says })
export type NewDiagnosis = z.output<typeof NewDiagnosis>
