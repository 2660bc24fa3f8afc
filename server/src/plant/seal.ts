import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto'

/** First bytes of a sealed backup; what follows is salt, nonce, tag, and the ZIP under AES-256-GCM. */
const MAGIC = Buffer.from('CALM-BACKUP-1\n', 'ascii')
const SALT = 16
const NONCE = 12
const TAG = 16
/** About a tenth of a second and 32 MiB for each guess. */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 2 ** 20 }

const keyOf = (passphrase: string, salt: Uint8Array) =>
  scryptSync(passphrase.normalize('NFKC'), salt, 32, COST)

export const isSealed = (bytes: Uint8Array): boolean =>
  MAGIC.equals(Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(MAGIC.length, bytes.length)))

/** Seals bytes with a passphrase. */
export function seal(bytes: Uint8Array, passphrase: string): Buffer {
  const salt = randomBytes(SALT)
  const nonce = randomBytes(NONCE)
  const cipher = createCipheriv('aes-256-gcm', keyOf(passphrase, salt), nonce)
  cipher.setAAD(MAGIC)
  const body = Buffer.concat([cipher.update(bytes), cipher.final()])
  return Buffer.concat([MAGIC, salt, nonce, cipher.getAuthTag(), body])
}

/** Opens sealed bytes. @throws Error with a sentence when the passphrase is another one or a byte was changed */
export function unseal(sealed: Uint8Array, passphrase: string): Buffer {
  const at = (from: number, length?: number) =>
    sealed.subarray(from, length === undefined ? undefined : from + length)
  let p = MAGIC.length
  const salt = at(p, SALT)
  const nonce = at((p += SALT), NONCE)
  const tag = at((p += NONCE), TAG)
  try {
    const decipher = createDecipheriv('aes-256-gcm', keyOf(passphrase, salt), nonce)
    decipher.setAAD(MAGIC)
    decipher.setAuthTag(tag)
    return Buffer.concat([decipher.update(at(p + TAG)), decipher.final()])
  } catch {
    throw new Error('This backup cannot be opened: the passphrase is another one, or the file was changed.')
  }
}
