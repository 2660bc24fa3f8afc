import { tokenEnded, tokenMade, webhookBegun, webhookEnded } from './programs.ts'
import {
  certificateRenewed,
  instrumentAdded,
  instrumentChanged,
  instrumentPictured,
  instrumentRetired,
  sensorSaved,
} from './instruments.ts'
import { jobAgreed, jobEntered, jobLetGo, jobMarked, planKept, presenceSaid, shiftNoted } from './days.ts'
import { keyBegun, keyEnded, keyWrapped, signatureFailed } from './keys.ts'
import {
  factorBegun,
  factorEnded,
  factorRecovered,
  passwordChanged,
  passwordReset,
  personAdded,
  personCame,
  personChanged,
  personInvited,
  personJoined,
  personLeft,
  personLocked,
  personUnlocked,
} from './people.ts'
import {
  backupMade,
  demoLoaded,
  deviceAsked,
  listImported,
  listUndone,
  ownPartsChanged,
  fileFetched,
  packageMade,
  packageTakenIn,
  plantBegun,
  plantKeyBegun,
  plantRestored,
  reviewed,
  rowFound,
  rulesChanged,
} from './plant.ts'
import type { PlantKind } from './plant-kind.ts'
import { signedIn, signedOut, signInFailed } from './sign-ins.ts'

const ALL = [
  personAdded,
  personInvited,
  personCame,
  personJoined,
  personChanged,
  personLocked,
  personUnlocked,
  personLeft,
  factorBegun,
  factorEnded,
  factorRecovered,
  passwordChanged,
  passwordReset,
  signedIn,
  signInFailed,
  signedOut,
  keyBegun,
  keyWrapped,
  keyEnded,
  signatureFailed,
  plantKeyBegun,
  instrumentAdded,
  certificateRenewed,
  instrumentChanged,
  instrumentPictured,
  instrumentRetired,
  sensorSaved,
  rulesChanged,
  ownPartsChanged,
  tokenMade,
  tokenEnded,
  webhookBegun,
  webhookEnded,
  listImported,
  listUndone,
  fileFetched,
  packageMade,
  packageTakenIn,
  planKept,
  jobEntered,
  jobLetGo,
  jobAgreed,
  jobMarked,
  presenceSaid,
  shiftNoted,
  demoLoaded,
  deviceAsked,
  backupMade,
  plantBegun,
  rowFound,
  plantRestored,
  reviewed,
] as readonly PlantKind[]

/** Every kind of change outside the loops, by its type. */
export const PLANT_KINDS: ReadonlyMap<string, PlantKind> = new Map(ALL.map((k) => [k.type, k]))

/** A change in words: title and one sentence; its bare type where this program does not know the kind. */
export function sayPlantEvent(
  type: string,
  payload: unknown,
): { readonly title: string; readonly says: string } {
  const kind = PLANT_KINDS.get(type)
  const parsed = kind?.payload.safeParse(payload)
  return kind && parsed?.success
    ? { title: kind.title, says: kind.says(parsed.data) }
    : { title: type, says: '' }
}
