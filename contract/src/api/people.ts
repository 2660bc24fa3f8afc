import { z } from 'zod'
import {
  ChangePerson,
  ChangeState,
  FirstAdministrator,
  Invitation,
  InvitePerson,
  PasswordLink,
  Person,
  RegisteredPerson,
  SessionInfo,
  TakeInvitation,
  WithReason,
} from '../people.ts'
import { people } from './addresses.ts'
import { ADMINISTRATORS, EVERYONE, type Endpoint } from './endpoint.ts'

const params = z.object({ person: z.uuid() })
const link = z.object({ token: z.string().max(100) })

export const peopleApi = {
  [people.list]: { says: 'Who works here', allow: EVERYONE, answer: z.array(Person) },
  [people.first]: {
    says: 'The first administrator of a plant that nobody works in yet',
    allow: 'anyone',
    body: FirstAdministrator,
    answer: SessionInfo,
    problems: ['conflict'],
  },
  [people.register]: {
    says: 'Everybody with state, key and sessions',
    allow: ADMINISTRATORS,
    answer: z.array(RegisteredPerson),
  },
  [people.invite]: {
    says: 'Invite somebody: a link good for a day, told once',
    allow: ADMINISTRATORS,
    body: InvitePerson,
    answer: PasswordLink,
    status: 201,
    problems: ['conflict'],
  },
  [people.change]: {
    says: 'Name, role, areas and last day of a person',
    allow: ADMINISTRATORS,
    params,
    body: ChangePerson,
    answer: RegisteredPerson,
    problems: ['conflict', 'not-found'],
  },
  [people.changeState]: {
    says: 'Lock, unlock, or note that somebody left; the name stays on every record',
    allow: ADMINISTRATORS,
    params,
    body: ChangeState,
    answer: RegisteredPerson,
    problems: ['conflict', 'not-found'],
  },
  [people.resetPassword]: {
    says: 'A link for a new password, or the invitation once more; the old password and key end',
    allow: ADMINISTRATORS,
    params,
    body: WithReason,
    answer: PasswordLink,
    problems: ['conflict', 'not-found'],
  },
  [people.endKey]: {
    says: 'Revoke a person’s signing key: what it signed before stays as it was',
    allow: ADMINISTRATORS,
    params,
    body: WithReason,
    answer: RegisteredPerson,
    problems: ['conflict', 'not-found'],
  },
  [people.endSessions]: {
    says: 'Sign a person out everywhere',
    allow: ADMINISTRATORS,
    params,
    body: WithReason,
    answer: RegisteredPerson,
    problems: ['not-found'],
  },
  [people.invitation]: {
    says: 'Whom a link is for',
    allow: 'anyone',
    params: link,
    answer: Invitation,
    problems: ['not-found', 'too-many'],
  },
  [people.takeInvitation]: {
    says: 'Set the password that the link is for, and sign in',
    allow: 'anyone',
    params: link,
    body: TakeInvitation,
    answer: SessionInfo,
    problems: ['not-found', 'too-many'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
