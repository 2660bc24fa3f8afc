import { promisify } from 'node:util'
import { SessionInfo, SignIn } from '@calm/contract/people'
import { hash, verify } from '@node-rs/argon2'
import { rateLimit } from 'express-rate-limit'
import type { RequestHandler } from 'express'
import type { Database } from '../db/connection.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { HttpProblem, sendProblem } from '../http/problems.ts'
import { personWithHash } from '../people/store.ts'

export const hashPassword = (password: string): Promise<string> => hash(password)

/** Compared against when nobody has that name, so that a wrong name takes as long as a wrong password. */
let unknownHash: Promise<string> | null = null

/** Ten tries a minute from one address: enough for cold fingers, not for a list of passwords. */
export const signInLimit = (perMinute: number): RequestHandler =>
  rateLimit({
    windowMs: 60_000,
    limit: perMinute,
    standardHeaders: true,
    legacyHeaders: false,
    handler: (req, res) =>
      sendProblem(req, res, {
        status: 429,
        code: 'too-many',
        says: 'Too many tries. Wait a minute, then sign in again.',
      }),
  })

export const sessionRoutes = (db: Database): Endpoint[] => [
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
      const found = await personWithHash(db, body.name)
      unknownHash ??= hashPassword('nobody')
      const right = await verify(found?.passwordHash ?? (await unknownHash), body.password)
      if (!found || !right)
        throw new HttpProblem(401, 'wrong-sign-in', 'Name and password do not belong together. Check both.')
      await promisify(req.session.regenerate.bind(req.session))()
      req.session.personId = found.person.id
      await promisify(req.session.save.bind(req.session))()
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
      await promisify(req.session.destroy.bind(req.session))()
      res.clearCookie('calm.sid')
      return { person: null }
    },
  }),
]
