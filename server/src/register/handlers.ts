import { randomUUID } from 'node:crypto'
import type { Person } from '@calm/contract/people'
import { people } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { allPeople, personAtWork } from '../people/store.ts'
import { beginSession } from '../session/session.ts'
import {
  addFirst,
  changePerson,
  changeState,
  endAllSessions,
  invitationOf,
  invite,
  register,
  resetPassword,
  revokeKey,
  takeInvitation,
} from './store.ts'

export const registerHandlers = (db: Database, clock: Clock): Bound[] => {
  const atWork = async (id: string): Promise<Person> => {
    const person = await personAtWork(db, id, clock().toISOString().slice(0, 10))
    if (!person) throw notFound('person')
    return person
  }
  return [
    bind(people.list, () => allPeople(db)),
    bind(people.first, async ({ body, req }) => {
      const id = randomUUID()
      await addFirst(db, body, id, clock())
      await beginSession(req, id)
      return { person: await atWork(id), first: false }
    }),
    bind(people.register, () => register(db, clock())),
    bind(people.invite, ({ body, person }) => invite(db, body, person, clock())),
    bind(people.change, ({ params, body, person }) => changePerson(db, params.person, body, person, clock())),
    bind(people.changeState, ({ params, body, person }) =>
      changeState(db, params.person, body, person, clock()),
    ),
    bind(people.resetPassword, ({ params, body, person }) =>
      resetPassword(db, params.person, body.reason, person, clock()),
    ),
    bind(people.endKey, ({ params, body, person }) =>
      revokeKey(db, params.person, body.reason, person, clock()),
    ),
    bind(people.endSessions, ({ params, body, person }) =>
      endAllSessions(db, params.person, body.reason, person, clock()),
    ),
    bind(people.invitation, ({ params }) => invitationOf(db, params.token, clock())),
    bind(people.takeInvitation, async ({ params, body, req }) => {
      const id = await takeInvitation(db, params.token, body.password, clock())
      await beginSession(req, id)
      return { person: await atWork(id), first: false }
    }),
  ]
}
