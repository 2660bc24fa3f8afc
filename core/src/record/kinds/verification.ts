import { z } from 'zod'
import { adjusted } from './adjusted.ts'
import { equipmentNamed } from './equipment-named.ts'
import { leftAsFound } from './left-as-found.ts'
import { phaseClosed } from './phase-closed.ts'
import { readingConfirmed } from './reading-confirmed.ts'
import { readingRecorded } from './reading-recorded.ts'
import { returned } from './returned.ts'
import { runStarted } from './run-started.ts'
import { signed } from './signed.ts'

/** Everything that can happen in a verification. */
export const VERIFICATION_KINDS = [
  runStarted,
  equipmentNamed,
  readingRecorded,
  readingConfirmed,
  phaseClosed,
  leftAsFound,
  adjusted,
  signed,
  returned,
] as const

const body = <T extends string, P extends z.ZodType>({ type, payload }: { type: T; payload: P }) =>
  z.strictObject({ type: z.literal(type), payload })

export const RunEventBody = z.discriminatedUnion('type', [
  body(runStarted),
  body(equipmentNamed),
  body(readingRecorded),
  body(readingConfirmed),
  body(phaseClosed),
  body(leftAsFound),
  body(adjusted),
  body(signed),
  body(returned),
])
export type RunEventBody = z.output<typeof RunEventBody>
