import { isWellFormed } from '@calm/core/record/canonical-json'
import { z } from 'zod'
import { KeptComparison } from './comparisons.ts'
import { KeptConfiguration } from './devices.ts'
import { NewDiagnosis } from './diagnoses.ts'
import { EventBody } from './events.ts'
import { InputVerified } from './inputs.ts'
import { Person } from './people.ts'

const hash = z.string().regex(/^[0-9a-f]{64}$/, 'Not a SHA-256.')

/** A revision of the loop's document was saved; the document itself is kept beside the record. */
const RevisionSaved = z.strictObject({
  number: z.int().min(1),
  reason: z.string().max(300),
  documentHash: hash,
})

/** Everything before this event came with a package; who took it in is this event's author. */
export const PackageTakenIn = z.strictObject({
  /** How many events came, all of those before this one. */
  events: z.int().min(1),
  /** Hash of the last of them. */
  head: hash,
  /** SHA-256 of the file. */
  file: hash,
  madeAt: z.iso.datetime(),
  /** As the package told them: nobody here vouches for these names. */
  people: z.array(z.strictObject(Person.shape)).max(500),
})

/** Events that belong to no run, by their type: what each must hold. */
const ALONE = {
  'revision.saved': RevisionSaved,
  'package.taken': PackageTakenIn,
  'configuration.kept': z.strictObject({
    note: KeptConfiguration.shape.note,
    configuration: KeptConfiguration.shape.configuration,
  }),
  'diagnosis.recorded': NewDiagnosis.omit({ id: true, at: true }),
  'reference.compared': z.strictObject(KeptComparison.shape).omit({ id: true, at: true, byName: true }),
  'input.verified': z.strictObject(InputVerified.shape),
} as const satisfies Readonly<Record<string, z.ZodType>>

export type AloneType = keyof typeof ALONE

/** What is wrong with an event's contents: where, and a sentence; null where nothing is. */
export interface Wrong {
  readonly path: string
  readonly says: string
}

const isAlone = (type: string): type is AloneType => Object.hasOwn(ALONE, type)

/** Text or numbers that no record can hold, anywhere in a value, with the path. */
function unstorable(value: unknown, path: string): Wrong | null {
  if (typeof value === 'string' && (value.includes('\0') || !isWellFormed(value)))
    return { path, says: 'This text holds a character that cannot be stored. Type it again.' }
  if (typeof value === 'number' && !Number.isFinite(value))
    return { path, says: 'This number is larger than any that can be stored.' }
  if (typeof value === 'object' && value !== null)
    for (const [k, v] of Object.entries(value)) {
      const here = path === '' ? k : `${path}.${k}`
      const wrong = k.includes('\0') || !isWellFormed(k) ? unstorable(k, path) : unstorable(v, here)
      if (wrong) return wrong
    }
  return null
}
export const unstorableIn = (value: unknown): Wrong | null => unstorable(value, '')

/** Judges an event's contents by its kind: the one list of what a record may hold. */
export function wrongInEvent(type: string, runId: string | null, payload: unknown): Wrong | null {
  const wrong = unstorable(payload, 'payload')
  if (wrong) return wrong
  const alone = isAlone(type)
  if (alone && runId !== null) return { path: 'runId', says: `An event “${type}” belongs to no run.` }
  const parsed = alone ? ALONE[type].safeParse(payload) : EventBody.safeParse({ type, payload })
  if (parsed.success)
    return alone || runId !== null ? null : { path: 'runId', says: `An event “${type}” belongs to a run.` }
  const [issue] = parsed.error.issues
  const path = issue?.path.join('.') ?? ''
  if (!alone && path === 'type')
    return { path: 'type', says: `Events of the kind “${type.slice(0, 60)}” are not known here.` }
  return {
    path: alone ? ['payload', path].filter((p) => p !== '').join('.') : path,
    says: issue?.message ?? '',
  }
}
