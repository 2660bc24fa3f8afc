import {
  createCipheriv,
  createPublicKey,
  generateKeyPairSync,
  pbkdf2Sync,
  randomBytes,
  type KeyObject,
} from 'node:crypto'
import type { WrappedKey } from '@calm/contract/people'

/** As a browser does it: what is made here opens there, and the other way round. */
const ROUNDS = 600_000

/** What a password wraps and opens a key with. */
export const keyUnder = (password: string, salt: Uint8Array, rounds: number) =>
  pbkdf2Sync(Buffer.from(password, 'utf8'), salt, rounds, 32, 'sha256')

/** Wraps a private key (PKCS#8) under a password: AES-256-GCM, the person's identifier beside it. */
export function wrapKey(
  pkcs8: Uint8Array,
  password: string,
  personId: string,
  { salt, iv, rounds }: { readonly salt: Uint8Array; readonly iv: Uint8Array; readonly rounds: number },
): string {
  const cipher = createCipheriv('aes-256-gcm', keyUnder(password, salt, rounds), iv)
  cipher.setAAD(Buffer.from(personId, 'utf8'))
  return Buffer.concat([cipher.update(pkcs8), cipher.final(), cipher.getAuthTag()]).toString('hex')
}

/** A signing key for a person of the demo plant, whose password everybody knows; all others make theirs in the browser. */
export function makeKey(password: string, personId: string): { wrapped: WrappedKey; privateKey: KeyObject } {
  const { privateKey } = generateKeyPairSync('ed25519')
  const [salt, iv] = [randomBytes(16), randomBytes(12)]
  const pkcs8 = privateKey.export({ format: 'der', type: 'pkcs8' })
  const wrapped = wrapKey(pkcs8, password, personId, { salt, iv, rounds: ROUNDS })
  const publicKey = createPublicKey(privateKey)
    .export({ format: 'der', type: 'spki' })
    .subarray(-32)
    .toString('hex')
  return {
    privateKey,
    wrapped: { publicKey, salt: salt.toString('hex'), iv: iv.toString('hex'), wrapped, rounds: ROUNDS },
  }
}
