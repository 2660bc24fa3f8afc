import { z } from 'zod'
import { MEANINGS } from '../signing/meanings.ts'
import { defineKind } from './kind.ts'

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

const Payload = z.strictObject({
  as: z.enum(['technician', 'reviewer']),
  statement: z.string().max(300),
  /** Absent in records from before people had keys. */
  signature: KeySignature.optional(),
})

export const signed = defineKind({
  type: 'signed',
  of: 'verification',
  payload: Payload,
  title: 'Signed',
  says: (p) =>
    `Signed as ${p.as}: ${p.statement}${p.signature ? ` (${p.signature.meaning}, key ${p.signature.key.slice(0, 16)})` : ''}`,
})
