import { z } from 'zod'
import { StationIdSchema } from '../../signal/chain.ts'
import { defineKind } from './kind.ts'

const ByStation = z.partialRecord(StationIdSchema, z.number())

/** Where an error was found to come in: what was read, how sure, and what was concluded. */
export const diagnosisRecorded = defineKind({
  type: 'diagnosis.recorded',
  of: 'loop',
  payload: z.strictObject({
    revision: z.int().min(1),
    levels: z
      .array(
        z.strictObject({
          values: ByStation,
          dir: z.union([z.literal(1), z.literal(-1)]),
          /** Where a known signal was fed in instead of the process. */
          fedAt: StationIdSchema.optional(),
        }),
      )
      .min(1)
      .max(20),
    /** Expanded uncertainty by station, k = 2, in its unit. */
    U: ByStation,
    /** The conclusion in words, as it stood on the screen. */
    says: z.array(z.string().trim().max(600)).max(12),
  }),
  title: 'Diagnosis',
  says: (p) => p.says.join('\n'),
})
