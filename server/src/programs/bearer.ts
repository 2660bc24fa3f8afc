import type { Person } from '@calm/contract/people'
import type { Request } from 'express'
import type { Database } from '../db/connection.ts'
import { HttpProblem, notAllowed } from '../http/problems.ts'
import { tokenOf } from './tokens.ts'

/** What is a person's own, and no program's. */
const OF_PEOPLE = /^\/api\/(session|preferences|live)(\/|$)/

/**
 * Who asks with a token in the head of the request: a program that looks where a viewer may, and changes nothing.
 * @returns null where there is no token
 * @throws HttpProblem 401, 403
 */
export async function bearerOf(db: Database, req: Request, at: Date): Promise<Person | null> {
  const [, secret] = /^Bearer +(\S+)$/i.exec(req.get('Authorization') ?? '') ?? []
  if (secret === undefined) return null
  const token = await tokenOf(db, secret, at)
  if (!token) throw new HttpProblem('sign-in', 'This token opens nothing: it ended, or it never was one.')
  if (req.method !== 'GET' || token.scope !== 'look' || OF_PEOPLE.test(req.path))
    throw notAllowed(
      token.scope === 'look'
        ? 'A token looks, and changes nothing.'
        : 'This token opens the calendar alone: put it into its address.',
    )
  return { id: '', name: token.name, shownName: token.name, role: 'viewer', areas: [], areaRoles: {} }
}
