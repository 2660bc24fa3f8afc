import { archived, broughtBack } from './archived.ts'
import { circuitRead } from './circuit-read.ts'
import { settingsReadBack } from './settings-read-back.ts'
import { configurationKept } from './configuration-kept.ts'
import { diagnosisRecorded } from './diagnosis-recorded.ts'
import { inputVerified } from './input-verified.ts'
import type { Kind } from './kind.ts'
import { pastEntered } from './past-entered.ts'
import { logKept } from './log-kept.ts'
import { noteKept } from './note-kept.ts'
import { packageTaken } from './package-taken.ts'
import { procedureAbortAsked } from './procedure-abort-asked.ts'
import { procedureStarted } from './procedure-started.ts'
import { procedureStep } from './procedure-step.ts'
import { procedureHandedOver } from './procedure-handed-over.ts'
import { procedureSigned } from './procedure-signed.ts'
import { procedureTakenOver } from './procedure-taken-over.ts'
import { referenceCompared } from './reference-compared.ts'
import { revisionSaved } from './revision-saved.ts'
import { siteSurveyed } from './site-surveyed.ts'
import { sumKept } from './sum-kept.ts'
import { VERIFICATION_KINDS } from './verification.ts'

/** Every kind of event that a record may hold. */
const ALL = [
  revisionSaved,
  archived,
  broughtBack,
  noteKept,
  logKept,
  siteSurveyed,
  packageTaken,
  configurationKept,
  diagnosisRecorded,
  sumKept,
  pastEntered,
  circuitRead,
  settingsReadBack,
  referenceCompared,
  inputVerified,
  ...VERIFICATION_KINDS,
  procedureStarted,
  procedureStep,
  procedureTakenOver,
  procedureHandedOver,
  procedureAbortAsked,
  procedureSigned,
] as readonly Kind[]

/** By the type that stands in the record. */
export const KINDS: ReadonlyMap<string, Kind> = new Map(ALL.map((k) => [k.type, k]))

/** An event in words: what it is called, and one sentence or more; null where its kind or contents are not known here. */
export function sayEvent(
  type: string,
  payload: unknown,
): { readonly title: string; readonly says: string } | null {
  const kind = KINDS.get(type)
  const parsed = kind?.payload.safeParse(payload)
  return kind && parsed?.success ? { title: kind.title, says: kind.says(parsed.data) } : null
}
