import { session as at } from '@calm/contract/api/addresses'
import type { WrappedKey } from '@calm/contract/people'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { wrapProofText } from '@calm/core/record/signing/wrap-proof'
import { call } from './call.ts'

/** How long a guess takes: about half a second in a page. */
const ROUNDS = 600_000
const KEY = 'Ed25519'

type Bytes = Uint8Array<ArrayBuffer>
const bytesOf = (text: string): Bytes => new TextEncoder().encode(text)
const fromText = (hex: string): Bytes => new Uint8Array(fromHex(hex))

/** Whether this page may make keys and sign: a browser offers it over a secure connection only. */
export const canSign = (): boolean => window.isSecureContext

async function wrapping(password: string, salt: Bytes, rounds: number, use: KeyUsage): Promise<CryptoKey> {
  const base = await crypto.subtle.importKey('raw', bytesOf(password), 'PBKDF2', false, ['deriveKey'])
  return crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: rounds },
    base,
    { name: 'AES-GCM', length: 256 },
    false,
    [use],
  )
}

/** The private key under a password; the person's identifier stands beside it, so that no other person's opens it. */
async function wrapped(
  priv: CryptoKey,
  publicKey: string,
  password: string,
  personId: string,
): Promise<WrappedKey> {
  const salt = crypto.getRandomValues(new Uint8Array(16))
  const iv = crypto.getRandomValues(new Uint8Array(12))
  const key = await wrapping(password, salt, ROUNDS, 'wrapKey')
  const beside = { name: 'AES-GCM', iv, additionalData: bytesOf(personId) }
  const under = new Uint8Array(await crypto.subtle.wrapKey('pkcs8', priv, key, beside))
  return { publicKey, salt: toHex(salt), iv: toHex(iv), wrapped: toHex(under), rounds: ROUNDS }
}

/** A new signing key for a person. Its private half leaves this page wrapped only. */
export async function makeKey(password: string, personId: string): Promise<WrappedKey> {
  const pair = (await crypto.subtle.generateKey(KEY, true, ['sign', 'verify'])) as CryptoKeyPair
  const raw = new Uint8Array(await crypto.subtle.exportKey('raw', pair.publicKey))
  return wrapped(pair.privateKey, toHex(raw), password, personId)
}

/** The private key for one signature: it cannot be taken out of the page. Null where the password is another one. */
export async function openKey(
  key: WrappedKey,
  password: string,
  personId: string,
  extractable = false,
): Promise<CryptoKey | null> {
  const by = await wrapping(password, fromText(key.salt), key.rounds, 'unwrapKey')
  const beside = { name: 'AES-GCM', iv: fromText(key.iv), additionalData: bytesOf(personId) }
  try {
    return await crypto.subtle.unwrapKey('pkcs8', fromText(key.wrapped), by, beside, KEY, extractable, [
      'sign',
    ])
  } catch {
    return null
  }
}

/** The same key under another password; null where the old one is wrong. */
export async function wrapAnew(
  key: WrappedKey,
  old: string,
  next: string,
  personId: string,
): Promise<WrappedKey | null> {
  const priv = await openKey(key, old, personId, true)
  return priv && wrapped(priv, key.publicKey, next, personId)
}

/** The same with the proof that it was opened: signed by itself. Null where the old password is wrong. */
export async function wrapProved(
  key: WrappedKey,
  old: string,
  next: string,
  personId: string,
): Promise<(WrappedKey & { proof: string }) | null> {
  const priv = await openKey(key, old, personId, true)
  if (!priv) return null
  const anew = await wrapped(priv, key.publicKey, next, personId)
  return { ...anew, proof: await signText(priv, wrapProofText(personId, anew)) }
}

/** Signs a text. @returns 64 bytes in hexadecimal */
export async function signText(priv: CryptoKey, text: string): Promise<string> {
  return toHex(new Uint8Array(await crypto.subtle.sign(KEY, priv, bytesOf(text))))
}

/** SHA-256 of a text in hexadecimal. */
export async function sha256(text: string): Promise<string> {
  return toHex(new Uint8Array(await crypto.subtle.digest('SHA-256', bytesOf(text))))
}

/** Makes the key of who has none yet, while the password is at hand. What fails here is told where it is signed. */
export async function ensureKey(password: string, personId: string): Promise<void> {
  if (!canSign()) return
  const { key } = await call(at.key, {})
  if (key === null) await call(at.beginKey, {}, await makeKey(password, personId))
}
