import { diagnosisRecorded } from '@calm/core/record/kinds/diagnosis-recorded'
import { z } from 'zod'

/** Where an error was found to come in, as a page sends it: its identifier makes a repeated send harmless. */
export const NewDiagnosis = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  ...diagnosisRecorded.payload.shape,
})
export type NewDiagnosis = z.output<typeof NewDiagnosis>
