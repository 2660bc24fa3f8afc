import type { Signing } from '../../signing/signing.ts'
import { procedureSigned } from '../kinds/procedure-signed.ts'
import { signed } from '../kinds/signed.ts'

/** What was signed by an event of either kind of run; null where it is no signature. */
export function signingIn({ type, payload }: { type: string; payload: unknown }): Signing | null {
  if (type === signed.type) return signed.payload.parse(payload)
  return type === procedureSigned.type ? procedureSigned.payload.parse(payload) : null
}
