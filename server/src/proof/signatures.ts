import type { ChainedEvent } from '@calm/core/record/hash-chain'
import type { PlantEvent } from '@calm/core/record/plant-log/plant-event'
import { statementText } from '@calm/core/record/signing/statement'
import type { KeySignature } from '@calm/core/signing/signing'
import { certificateFor } from '@calm/core/verify/certificate-for'
import { instrumentOf } from '../equipment/history.ts'
import { isoInstant } from '../db/time.ts'
import type { allKeys } from '../people/keys.ts'
import { fingerprintOf, signedBy } from '../plant-log/plant-key.ts'
import { contentsOf, instrumentsOfRun } from '../record/contents.ts'
import type { AnyRun } from '../record/fold.ts'
import type { Mismatch } from './mismatch.ts'

/** What signatures are held against. */
export interface Register {
  readonly keys: Awaited<ReturnType<typeof allKeys>>
  /** Place of every event in the order in which all were recorded. */
  readonly order: ReadonlyMap<string, number>
  /** Entries of the log that tell of instruments, in their order. */
  readonly instruments: readonly PlantEvent[]
}

/** An instrument as the register had it for work of a day, when an event was recorded; null where it was in none. */
function instrumentThen(id: string, at: number, day: string, { instruments, order }: Register) {
  const known = instruments.filter((e) => e.row?.key === id && (order.get(e.id) ?? Infinity) < at)
  return certificateFor(
    known.flatMap((e) => instrumentOf(e.row) ?? []),
    day,
  )
}

/**
 * What is wrong with a signature in a loop's record; null where it holds.
 * @param signature - what the event holds of it
 * @param any - the run as it stood before it was signed
 * @param document - hash of the document that it was begun on
 */
export function wrongSignature(
  e: ChainedEvent,
  signature: KeySignature,
  tag: string,
  any: AnyRun,
  document: string,
  register: Register,
): Mismatch | null {
  const wrong = (says: string): Mismatch => ({ where: `${tag}, event ${e.seq}`, field: 'signature', says })
  const key = register.keys.find((k) => k.fingerprint === signature.key)
  if (!key) return wrong('It was made with a key that nobody here has or had.')
  if (key.personId !== e.by) return wrong('The key is another person’s.')
  if (fingerprintOf(key.publicKey) !== key.fingerprint)
    return wrong('The public key is not the one of its fingerprint.')
  const until = key.until && isoInstant(key.until)
  if (e.recordedAt < isoInstant(key.from) || (until !== null && e.recordedAt > until))
    return wrong('The key was not in use when this was recorded.')
  const { meaning, of } = signature
  const text = statementText({ v: 1, loop: e.loopId, event: e.id, by: e.by, meaning, of, at: e.at })
  if (!signedBy(key.publicKey, text, signature.value)) return wrong('The key did not sign this.')
  const place = register.order.get(e.id) ?? Infinity
  const instruments = [...new Set(instrumentsOfRun(any))]
    .map((id) => instrumentThen(id, place, any.run.startedAt.slice(0, 10), register))
    .filter((i) => i !== null)
  return contentsOf(any, { document, instruments }) === of
    ? null
    : wrong('What was signed is not what stands here.')
}
