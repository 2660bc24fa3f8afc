import { z } from 'zod'
import { DemoSignIn, SessionInfo, SignIn } from '../people.ts'
import { session } from './addresses.ts'
import { EVERYONE, type Endpoint } from './endpoint.ts'

export const sessionApi = {
  [session.one]: { says: 'Who is signed in', allow: 'anyone', answer: SessionInfo },
  [session.signIn]: {
    says: 'Sign in',
    allow: 'anyone',
    body: SignIn,
    answer: SessionInfo,
    problems: ['wrong-sign-in', 'too-many'],
  },
  [session.demo]: {
    says: 'Who may sign in to the demo plant; nobody elsewhere',
    allow: 'anyone',
    answer: z.array(DemoSignIn),
  },
  [session.signOut]: { says: 'Sign out', allow: 'anyone', answer: z.null(), status: 204 },
  [session.signOutEverywhere]: {
    says: 'Sign out on every machine',
    allow: EVERYONE,
    answer: z.object({ ended: z.int() }),
  },
} as const satisfies Readonly<Record<string, Endpoint>>
