import { canonicalJson } from '../canonical-json.ts'

/** A signing key under a password, as it is stored. */
export interface KeyUnderPassword {
  readonly publicKey: string
  readonly salt: string
  readonly iv: string
  readonly wrapped: string
  readonly rounds: number
}

/**
 * What the key itself signs when it goes under another password: who sends it has opened it. An open page alone could
 * else put anything in its place, and nobody would sign any more.
 */
export const wrapProofText = (
  personId: string,
  { publicKey, salt, iv, wrapped, rounds }: KeyUnderPassword,
): string =>
  `calm-loop key under another password v1\n${canonicalJson({ personId, publicKey, salt, iv, wrapped, rounds })}`
