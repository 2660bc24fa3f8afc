import { z } from 'zod'
import { maybeSamePerson } from './authors.ts'
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

/** A signature with who gave it and when. */
export interface Signature {
  readonly as: 'technician' | 'reviewer'
  readonly by: string
  readonly at: string
  readonly statement: string
  /** By the person's own key; absent in records from before there were any. */
  readonly signature?: KeySignature | undefined
}

/** Most people who sign one record. */
const MOST_SIGNATURES = 3

/** Signatures with the one that a signed event brings. */
export const withSignature = (
  there: readonly Signature[],
  { as, statement, signature: value }: Signing,
  by: string,
  at: string,
): readonly Signature[] => [...there, { as, by, at, statement, ...(value && { signature: value }) }]

/** Why somebody's signature as reviewer cannot join those that are there; null where it can. */
export function reviewProblem(
  there: readonly Signature[],
  { signature }: Signing,
  by: string,
): string | null {
  if (there.length === 0) return 'A reviewer signs after the technician has signed.'
  if (there.length >= MOST_SIGNATURES) return 'This record is signed and reviewed already.'
  // One more, where the plant asks for it: another person, who says something else with it.
  if (
    there.length > 1 &&
    (signature === undefined || there.some((s) => s.signature?.meaning === signature.meaning))
  )
    return 'This record is signed and reviewed already; one more signature means something else.'
  return there.some((s) => maybeSamePerson(s.by, by))
    ? 'The record needs a second person: who signed it cannot review it.'
    : null
}
