import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import type { Meaning } from '@calm/core/signing/meanings'
import { statementText } from '@calm/core/record/signing/statement'
import type { Executor } from '../db/connection.ts'
import type { AnyRun } from '../record/fold.ts'
import { keyOf } from '../people/keys.ts'
import { plantRules } from '../settings/store.ts'
import { signedBy } from '../plant-log/plant-key.ts'
import { signedNow } from './signing.ts'

/** A signature that is about to be accepted. */
export interface ToCheck {
  readonly event: NewEvent
  readonly loopId: string
  readonly person: Person
}

/**
 * What is wrong with a signature: it is by the person's own key of now, it means something its place can mean, and
 * it is over the very record that is here.
 * @returns the place in the payload and a sentence; null where it holds
 */
export async function wrongSignature(
  tx: Executor,
  { event, loopId, person }: ToCheck,
  any: AnyRun,
): Promise<{ readonly path: string; readonly says: string } | null> {
  const { body } = event
  if (body.type !== 'signed' && body.type !== 'procedure.signed') return null
  const { signature, as } = body.payload
  if (!signature)
    return {
      path: 'signature',
      says: 'A signature is made with the person’s own key: type the password where it is signed.',
    }
  const { signing } = await plantRules(tx)
  const means: readonly Meaning[] = as === 'technician' ? ['performed'] : signing.second
  if (!means.includes(signature.meaning))
    return { path: 'signature.meaning', says: `A ${as} of this plant signs as ${means.join(' or ')}.` }
  const key = await keyOf(tx, person.id)
  if (key?.fingerprint !== signature.key)
    return {
      path: 'signature.key',
      says: key
        ? 'This is not the signing key of now. Reload the page, then sign again.'
        : 'There is no signing key. Sign in again: one is made then.',
    }
  if (signature.of !== (await signedNow(tx, loopId, any)))
    return {
      path: 'signature.of',
      says: 'What was signed is not what stands here: somebody added to it meanwhile. Look at it again, then sign.',
    }
  const told = {
    v: 1,
    loop: loopId,
    event: event.id,
    by: person.id,
    meaning: signature.meaning,
    of: signature.of,
    at: event.at,
  } as const
  return signedBy(key.publicKey, statementText(told), signature.value)
    ? null
    : { path: 'signature.value', says: 'The signature does not belong to this record, time and key.' }
}
