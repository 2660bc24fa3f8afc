import { maybeSamePerson } from '../../signing/authors.ts'
import { roleIn, worksAs, type Roled } from '../../signing/roles.ts'

/** Whose signature a record waits for: of who did it, or of another person. */
export type WaitsFor = 'performed' | 'reviewed'

/**
 * What a verification or procedure waits for.
 * @param state - of the run; what is under way waits for no signature
 * @param there - signatures under it
 * @param asked - how many the plant asks for
 * @returns null where it waits for none; a procedure that nobody began to sign is asked for none
 */
export function waitsFor(
  { kind, state }: { readonly kind: 'verification' | 'procedure'; readonly state: string },
  there: number,
  asked: number,
): WaitsFor | null {
  if (there >= asked) return null
  if (kind === 'procedure') return there > 0 ? 'reviewed' : null
  if (state === 'ready') return 'performed'
  return there > 0 ? 'reviewed' : null
}

/** Whether somebody can give the signature that is waited for, by the role in the loop's area. */
export function canGive(
  waits: WaitsFor,
  person: Roled & { readonly id: string },
  area: string,
  signedBy: readonly string[],
): boolean {
  const role = roleIn(person, area)
  if (waits === 'performed') return worksAs(role)
  return role === 'reviewer' && !signedBy.some((by) => maybeSamePerson(by, person.id))
}
