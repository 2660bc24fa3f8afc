import { z } from 'zod'
import { MEANINGS } from './meanings.ts'

const hex = (bytes: number) => z.string().regex(new RegExp(`^[0-9a-f]{${2 * bytes}}$`))

/** The signature itself, by the person's own key. */
export const KeySignature = z.strictObject({
  meaning: z.enum(MEANINGS),
  /** SHA-256 of what was signed. */
  of: hex(32),
  /** Fingerprint of the key. */
  key: hex(32),
  value: hex(64),
})
export type KeySignature = z.output<typeof KeySignature>

/** What a signed event holds: as whom it is signed, in which words, and the signature by the key. */
export const Signing = z.strictObject({
  as: z.enum(['technician', 'reviewer']),
  statement: z.string().max(300),
  /** Absent in records from before people had keys. */
  signature: KeySignature.optional(),
})
export type Signing = z.output<typeof Signing>

export const saySigned = ({ as, statement, signature }: Signing): string =>
  `Signed as ${as}: ${statement}${signature ? ` (${signature.meaning}, key ${signature.key.slice(0, 16)})` : ''}`
