import {
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  sign,
  verify,
  type KeyObject,
} from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

/** DER of an Ed25519 public key before its 32 bytes. @see RFC 8410 */
const SPKI = Buffer.from('302a300506032b6570032100', 'hex')

/** What the plant signs its heads and packages with: outside the database, readable by the server alone. */
export interface PlantKey {
  /** SHA-256 of the raw public key. */
  readonly fingerprint: string
  /** 32 bytes in hexadecimal. */
  readonly publicKey: string
  readonly sign: (text: string) => string
}

/** Fingerprint of a raw public key in hexadecimal. */
export const fingerprintOf = (publicKey: string): string =>
  createHash('sha256').update(Buffer.from(publicKey, 'hex')).digest('hex')

function keyOf(priv: KeyObject): PlantKey {
  if (priv.asymmetricKeyType !== 'ed25519') throw new Error('it is not an Ed25519 key')
  const publicKey = createPublicKey(priv)
    .export({ format: 'der', type: 'spki' })
    .subarray(-32)
    .toString('hex')
  return {
    fingerprint: fingerprintOf(publicKey),
    publicKey,
    sign: (text) => sign(null, Buffer.from(text, 'utf8'), priv).toString('hex'),
  }
}

/** Whether a text was signed by the key whose public half this is. */
export function signedBy(publicKey: string, text: string, signature: string): boolean {
  if (!/^[0-9a-f]{64}$/.test(publicKey) || !/^[0-9a-f]{128}$/.test(signature)) return false
  const key = createPublicKey({
    key: Buffer.concat([SPKI, Buffer.from(publicKey, 'hex')]),
    format: 'der',
    type: 'spki',
  })
  return verify(null, Buffer.from(text, 'utf8'), key, Buffer.from(signature, 'hex'))
}

/**
 * The plant's key: from the environment, else from its file, which is made with mode 0600 where there is none.
 * @param pem - PKCS#8 as text; null: the file
 * @throws Error with a sentence where it cannot be read or is no such key
 */
export function plantKey(file: string, pem: string | null): PlantKey {
  try {
    if (pem !== null) return keyOf(createPrivateKey(pem))
    if (!existsSync(file)) {
      mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
      const { privateKey } = generateKeyPairSync('ed25519')
      // Two servers that start at once: the second takes the first one's.
      writeFileSync(file, privateKey.export({ format: 'pem', type: 'pkcs8' }), { mode: 0o600, flag: 'wx' })
    }
  } catch (error) {
    if ((error as { code?: string }).code !== 'EEXIST')
      throw new Error(
        `The plant’s key cannot be used: ${error instanceof Error ? error.message : 'unknown'}.`,
        {
          cause: error,
        },
      )
  }
  return keyOf(createPrivateKey(readFileSync(file)))
}
