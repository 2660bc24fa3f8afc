import { maybeSamePerson } from './authors.ts'
import type { KeySignature, Signing } from './signing.ts'

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
