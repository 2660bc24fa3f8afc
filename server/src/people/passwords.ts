import { hash, verify } from '@node-rs/argon2'
import { dictionary } from '@zxcvbn-ts/language-common'
import { HttpProblem } from '../http/problems.ts'

/** Argon2id by OWASP's advice; the library works on threads of its own. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }

export const hashPassword = (password: string): Promise<string> => hash(password, COST)

/** Compared against when nobody has that name, so that a wrong name takes as long as a wrong password. */
let unknownHash: Promise<string> | null = null

/** Whether a password is the one of a hash; of none it never is, and takes as long. */
export async function isPassword(passwordHash: string | null, password: string): Promise<boolean> {
  unknownHash ??= hashPassword('nobody')
  const right = await verify(passwordHash ?? (await unknownHash), password)
  return passwordHash !== null && right
}

const COMMON: ReadonlySet<string> = new Set(dictionary['passwords-common'])

/** Whether a password is among the most common of those that leaked somewhere, whatever the case. */
const isCommon = (password: string): boolean => COMMON.has(password.toLowerCase())

/** @throws HttpProblem 422 at the password's path */
export function refuseCommon(password: string, path: string): void {
  if (isCommon(password))
    throw new HttpProblem('wrong-values', 'Some values cannot be used.', [
      {
        path,
        says: 'This is one of the most common passwords. Take another: a sentence is easy to remember.',
      },
    ])
}
