import { SessionInfo, SignIn } from '@calm/contract/people'
import { hash, verify } from '@node-rs/argon2'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { HttpProblem } from '../http/problems.ts'
import { personWithHash } from '../people/store.ts'
import { noteTry, takeTry } from './limits.ts'
import { beginSession, endSession, endSessionsOf } from './session.ts'

export const hashPassword = (password: string): Promise<string> => hash(password)

/** Compared against when nobody has that name, so that a wrong name takes as long as a wrong password. */
let unknownHash: Promise<string> | null = null

const COOKIE = 'calm.sid'

export const sessionRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    allow: 'anyone',
    response: SessionInfo,
    handle: ({ person }) => ({ person: person.id === '' ? null : person }),
  }),
  endpoint({
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    allow: 'anyone',
    body: SignIn,
    response: SessionInfo,
    async handle({ body, req }) {
      const tried = { name: body.name.toLowerCase(), address: req.ip ?? '', at: clock() }
      await takeTry(db, tried)
      const found = await personWithHash(db, body.name)
      unknownHash ??= hashPassword('nobody')
      const right = await verify(found?.passwordHash ?? (await unknownHash), body.password)
      await noteTry(db, tried, found && right ? 'right' : 'wrong')
      if (!found || !right) throw new HttpProblem(401, 'wrong-sign-in', 'Wrong name or password.')
      await beginSession(req, found.person.id)
      return { person: found.person }
    },
  }),
  endpoint({
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    allow: 'anyone',
    response: SessionInfo,
    status: 204,
    async handle({ req, res }) {
      await endSession(db, req)
      res.clearCookie(COOKIE)
      return { person: null }
    },
  }),
  endpoint({
    method: 'delete',
    path: '/api/session/everywhere',
    summary: 'Sign out on every machine',
    allow: EVERYONE,
    response: z.object({ ended: z.int() }),
    async handle({ person, res }) {
      const ended = await endSessionsOf(db, person.id)
      res.clearCookie(COOKIE)
      return { ended }
    },
  }),
]
