import {
  createCipheriv,
  createDecipheriv,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  pbkdf2Sync,
  randomBytes,
  type KeyObject,
} from 'node:crypto'
import type { WrappedKey } from '@calm/contract/people'

/** As a browser does it: what is made here opens there, and the other way round. */
const ROUNDS = 600_000
const TAG = 16

const keyOf = (password: string, salt: Uint8Array, rounds: number) =>
  pbkdf2Sync(Buffer.from(password, 'utf8'), salt, rounds, 32, 'sha256')

/** Wraps a private key (PKCS#8) under a password: AES-256-GCM, the person's identifier beside it. */
export function wrapKey(
  pkcs8: Uint8Array,
  password: string,
  personId: string,
  { salt, iv, rounds }: { readonly salt: Uint8Array; readonly iv: Uint8Array; readonly rounds: number },
): string {
  const cipher = createCipheriv('aes-256-gcm', keyOf(password, salt, rounds), iv)
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

/** Opens a wrapped key. @throws Error where the password or the person is another one */
export function openKey(key: WrappedKey, password: string, personId: string): KeyObject {
  const all = Buffer.from(key.wrapped, 'hex')
  const decipher = createDecipheriv(
    'aes-256-gcm',
    keyOf(password, Buffer.from(key.salt, 'hex'), key.rounds),
    Buffer.from(key.iv, 'hex'),
  )
  decipher.setAAD(Buffer.from(personId, 'utf8'))
  decipher.setAuthTag(all.subarray(-TAG))
  const pkcs8 = Buffer.concat([decipher.update(all.subarray(0, -TAG)), decipher.final()])
  return createPrivateKey({ key: pkcs8, format: 'der', type: 'pkcs8' })
}
