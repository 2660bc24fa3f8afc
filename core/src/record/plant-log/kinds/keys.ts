import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const name = z.string().max(120)
const fingerprint = z.string().regex(/^[0-9a-f]{64}$/)
/** Enough of a fingerprint to tell keys apart by eye. */
const short = (f: string) => f.slice(0, 16)

export const keyBegun = plantKind({
  type: 'key.begun',
  group: 'keys and signatures',
  payload: z.strictObject({ shownName: name, fingerprint }),
  title: 'Signing key made',
  says: (p) => `${p.shownName} signs with key ${short(p.fingerprint)} from now on.`,
})
export const keyWrapped = plantKind({
  type: 'key.wrapped',
  group: 'keys and signatures',
  payload: z.strictObject({ shownName: name, fingerprint }),
  title: 'Signing key wrapped anew',
  says: (p) => `Key ${short(p.fingerprint)} of ${p.shownName} opens by the new password.`,
})
export const keyEnded = plantKind({
  type: 'key.ended',
  group: 'keys and signatures',
  payload: z.strictObject({ shownName: name, fingerprint, why: z.string().max(300) }),
  title: 'Signing key ended',
  says: (p) => `Key ${short(p.fingerprint)} of ${p.shownName} signs nothing any more: ${p.why}.`,
})
export const signatureFailed = plantKind({
  type: 'signature.failed',
  group: 'keys and signatures',
  payload: z.strictObject({ shownName: name, tag: z.string().max(60), why: z.string().max(200) }),
  title: 'Signature failed',
  says: (p) => `${p.shownName} could not sign at ${p.tag}: ${p.why}.`,
})
