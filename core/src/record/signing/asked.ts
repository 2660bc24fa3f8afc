import { usualOf } from '../../loop/usual.ts'

/** Who did it, and one who reviewed it: until a plant says otherwise. */
const USUALLY = 2

/** How many people sign a verification of this kind of meter, by the rules of the plant. */
export const signaturesAsked = (
  rules: { readonly byKind: Readonly<Record<string, { readonly signatures: number | null }>> },
  family: string | null,
): number => usualOf(rules.byKind, family, 'signatures') ?? USUALLY

/** What the plant still waits for, in words; null where nothing is missing. */
export function saySignaturesMissing(there: number, asked: number): string | null {
  if (there >= asked) return null
  return there === 0
    ? `Not signed: this is a draft. The plant asks for ${asked} ${asked === 1 ? 'signature' : 'signatures'}.`
    : `${there} of the ${asked} signatures that the plant asks for.`
}
