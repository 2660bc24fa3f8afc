import { z } from 'zod'
import {
  BeginFactor,
  ChangePassword,
  ConfirmFactor,
  DemoSignIn,
  FactorOffer,
  FactorState,
  OpenSession,
  OwnKey,
  RecoveryCodes,
  SessionInfo,
  SignIn,
  WrappedAnew,
  WrappedKey,
} from '../people.ts'
import { session } from './addresses.ts'
import { EVERYONE, type Endpoint } from './endpoint.ts'

export const sessionApi = {
  [session.one]: { says: 'Who is signed in', allow: 'anyone', answer: SessionInfo },
  [session.provider]: {
    says: 'What the plant calls its own sign-in, by OpenID Connect; null where it has none',
    allow: 'anyone',
    answer: z.object({ name: z.string().nullable() }),
  },
  [session.toProvider]: {
    says: 'Go to the plant’s own sign-in: a browser is sent on there',
    allow: 'anyone',
    answer: z.null(),
    status: 303,
    problems: ['not-found'],
  },
  [session.fromProvider]: {
    says: 'Where the plant’s own sign-in sends a browser back to: signed in, or to the sign-in page with why not',
    allow: 'anyone',
    answer: z.null(),
    status: 303,
    problems: ['not-found'],
  },
  [session.signIn]: {
    says: 'Sign in',
    allow: 'anyone',
    body: SignIn,
    answer: SessionInfo,
    problems: ['wrong-sign-in', 'second-factor', 'too-many'],
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
  [session.open]: {
    says: 'Where this person is signed in',
    allow: EVERYONE,
    answer: z.array(OpenSession),
  },
  [session.endOpen]: {
    says: 'End one of them',
    allow: EVERYONE,
    params: z.object({ session: z.string() }),
    answer: z.array(OpenSession),
    problems: ['not-found'],
  },
  [session.changePassword]: {
    says: 'A new password; every other session of this person ends, and the signing key opens by the new one',
    allow: EVERYONE,
    body: ChangePassword,
    answer: z.object({ ended: z.int() }),
    problems: ['wrong-sign-in', 'too-many', 'conflict'],
  },
  [session.key]: {
    says: 'This person’s signing key, the private half wrapped by the password; null without one',
    allow: EVERYONE,
    answer: z.object({
      key: OwnKey.nullable(),
      /** Without a password here: who signs in elsewhere chooses one for signing alone. */
      signsInElsewhere: z.boolean(),
    }),
    problems: ['too-many'],
  },
  [session.factor]: {
    says: 'Whether this person has a second factor',
    allow: EVERYONE,
    answer: FactorState,
  },
  [session.offerFactor]: {
    says: 'A second factor by time codes (RFC 6238): it counts once a code of it was typed',
    allow: EVERYONE,
    body: BeginFactor,
    answer: FactorOffer,
    problems: ['wrong-sign-in', 'too-many', 'conflict'],
  },
  [session.confirmFactor]: {
    says: 'The first code: from now on one is asked for at the sign-in; recovery codes are told once',
    allow: EVERYONE,
    body: ConfirmFactor,
    answer: RecoveryCodes,
    problems: ['conflict'],
  },
  [session.endFactor]: {
    says: 'No second factor any more',
    allow: EVERYONE,
    body: BeginFactor,
    answer: FactorState,
    problems: ['wrong-sign-in', 'too-many', 'conflict'],
  },
  [session.noteFailure]: {
    says: 'Note that the password did not open the signing key; five in a quarter of an hour, and it is held back',
    allow: EVERYONE,
    body: z.strictObject({ tag: z.string().max(60) }),
    answer: z.null(),
    status: 204,
  },
  [session.beginKey]: {
    says: 'A signing key for who has none',
    allow: EVERYONE,
    body: WrappedKey,
    answer: z.object({ key: OwnKey.nullable() }),
    problems: ['conflict'],
  },
  [session.wrapKey]: {
    says: 'The signing key under another password, for who signs in elsewhere; proved by the key itself',
    allow: EVERYONE,
    body: WrappedAnew,
    answer: z.object({ key: OwnKey.nullable() }),
    problems: ['conflict', 'too-many'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
