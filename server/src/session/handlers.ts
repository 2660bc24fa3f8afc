import { hash, verify } from '@node-rs/argon2'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { session } from '@calm/contract/api/addresses'
import type { DemoSignIn } from '@calm/contract/people'
import { bind, type Bound } from '../http/endpoint.ts'
import { HttpProblem } from '../http/problems.ts'
import { allPeople, personWithHash } from '../people/store.ts'
import { noteTry, takeTry } from './limits.ts'
import { beginSession, endSession, endSessionsOf } from './session.ts'

export const hashPassword = (password: string): Promise<string> => hash(password)

/** Compared against when nobody has that name, so that a wrong name takes as long as a wrong password. */
let unknownHash: Promise<string> | null = null

const COOKIE = 'calm.sid'

export const sessionHandlers = (db: Database, clock: Clock, demo: readonly DemoSignIn[]): Bound[] => [
  // Only who is here: a plant of one's own in the same database is no demo.
  bind(session.demo, async () => {
    const here = new Set((await allPeople(db)).map((p) => p.name))
    return demo.filter((p) => here.has(p.name))
  }),
  bind(session.one, ({ person }) => ({ person: person.id === '' ? null : person })),
  bind(session.signIn, async ({ body, req }) => {
    const tried = { name: body.name.toLowerCase(), address: req.ip ?? '', at: clock() }
    await takeTry(db, tried)
    const found = await personWithHash(db, body.name)
    unknownHash ??= hashPassword('nobody')
    const right = await verify(found?.passwordHash ?? (await unknownHash), body.password)
    await noteTry(db, tried, found && right ? 'right' : 'wrong')
    if (!found || !right) throw new HttpProblem('wrong-sign-in', 'Wrong name or password.')
    await beginSession(req, found.person.id)
    return { person: found.person }
  }),
  bind(session.signOut, async ({ req, res }) => {
    await endSession(db, req)
    res.clearCookie(COOKIE)
    return null
  }),
  bind(session.signOutEverywhere, async ({ person, res }) => {
    const ended = await endSessionsOf(db, person.id)
    res.clearCookie(COOKIE)
    return { ended }
  }),
]
