import { createHash } from 'node:crypto'
import type { Digest } from '@calm/core/record/hash-chain'
import type { BytesDigest } from '@calm/core/record/plant-log/hash-tree'

/** SHA-256 of a text, in hexadecimal: the digest of every chain. */
export const sha256: Digest = (text) => createHash('sha256').update(text, 'utf8').digest('hex')

/** SHA-256 of a file. */
export const sha256Bytes = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/** SHA-256 of texts one behind the other, in hexadecimal: nothing is copied together for it. */
export function sha256Texts(...texts: readonly string[]): string {
  const hash = createHash('sha256')
  for (const t of texts) hash.update(t)
  return hash.digest('hex')
}

/** SHA-256 of bytes as bytes: the digest of the plant's tree. */
export const digestBytes: BytesDigest = (bytes) => createHash('sha256').update(bytes).digest()
