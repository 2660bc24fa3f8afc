import { AREA_ROLES, ROLES } from '@calm/core/signing/roles'
import { z } from 'zod'

export const Role = z.enum(ROLES)
export type Role = z.output<typeof Role>
/** By area, where the role is another one there. */
const areaRoles = z
  .record(z.string().trim().min(1).max(60), z.enum(AREA_ROLES))
  .refine((x) => Object.keys(x).length <= 60, 'At most 60 areas.')

export const Person = z.object({
  id: z.uuid(),
  name: z.string(),
  shownName: z.string(),
  role: Role,
  /** Where this person works, and only looks elsewhere; empty: everywhere. */
  areas: z.array(z.string()),
  /** Areas in which the role is another one. */
  areaRoles,
})
export type Person = z.output<typeof Person>

/** Who may sign in to the demo plant, and how; nobody outside it. */
export const DemoSignIn = Person.omit({ id: true, areas: true, areaRoles: true }).extend({
  password: z.string(),
})
export type DemoSignIn = z.output<typeof DemoSignIn>

export const SignIn = z.strictObject({
  name: z.string().trim().min(1, 'Type your sign-in name.').max(60),
  password: z.string().min(1, 'Type your password.').max(200),
  /** Where the person has a second factor: the time code of now, or a recovery code. */
  code: z.string().trim().max(40).optional(),
})

/** A second factor in the making: it counts once a code of it was typed. */
export const FactorOffer = z.object({
  /** Base32, to be typed where nothing can be scanned. */
  secret: z.string(),
  uri: z.string(),
  /** The same as a picture, SVG. */
  picture: z.string(),
})
export type FactorOffer = z.output<typeof FactorOffer>
export const FactorState = z.object({
  since: z.string().nullable(),
  /** Recovery codes that were not used. */
  codesLeft: z.int(),
})
export type FactorState = z.output<typeof FactorState>
const passwordNow = z.string().min(1, 'Type your password.').max(200)
export const BeginFactor = z.strictObject({ password: passwordNow })
export const ConfirmFactor = z.strictObject({ code: z.string().trim().min(1, 'Type the code.').max(40) })
/** Told once. */
export const RecoveryCodes = z.object({ codes: z.array(z.string()) })

export const SessionInfo = z.object({
  person: Person.nullable(),
  /** Nobody works here yet: the first administrator is asked for. */
  first: z.boolean(),
})
export type SessionInfo = z.output<typeof SessionInfo>

const hex = (bytes: number) =>
  z.string().regex(new RegExp(`^[0-9a-f]{${2 * bytes}}$`), 'Not as it should be.')

/** A signing key: the public half, and the private one under the password, as the browser made both. */
export const WrappedKey = z.strictObject({
  publicKey: hex(32),
  salt: hex(16),
  iv: hex(12),
  wrapped: z.string().regex(/^[0-9a-f]{96,400}$/, 'Not as it should be.'),
  rounds: z.int().min(600_000, 'At least 600 000 rounds.').max(10_000_000),
})
export type WrappedKey = z.output<typeof WrappedKey>
/** The same key under another password, with what it signed itself: whoever sends it has opened it. */
export const WrappedAnew = WrappedKey.extend({ proof: hex(64) })
/** The same with who it is of, as it is given back. */
export const OwnKey = WrappedKey.extend({ fingerprint: hex(32), from: z.string() })
export type OwnKey = z.output<typeof OwnKey>

/** Current advice asks for length and that it is not a common one; nothing else. */
export const Password = z
  .string()
  .min(12, 'At least 12 characters. A sentence is easy to remember.')
  .max(128, 'At most 128 characters.')

const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(
    /^[a-z][a-z0-9.-]{1,39}$/,
    'Small letters, digits, dots and hyphens, from a letter on: at least two.',
  )
const shownName = z
  .string()
  .trim()
  .min(2, 'Give the name as it stands on papers.')
  .max(120, 'At most 120 characters.')
const areas = z.array(z.string().trim().min(1).max(60)).max(60, 'At most 60 areas.')
const reason = z.string().trim().min(1, 'Say why: it stands in the log.').max(300, 'At most 300 characters.')
const until = z.iso.date('Write the date as 2026-11-23.').nullable()

export const FirstAdministrator = z.strictObject({
  name: signInName,
  shownName,
  password: Password,
})
export const InvitePerson = z.strictObject({
  id: z.uuid(),
  name: signInName,
  shownName,
  role: Role,
  areas,
  areaRoles: areaRoles.default({}),
  until,
  reason,
})
export type InvitePerson = z.input<typeof InvitePerson>
export const ChangePerson = z.strictObject({
  shownName,
  role: Role,
  areas,
  areaRoles: areaRoles.default({}),
  until,
  reason,
})
export const ChangeState = z.strictObject({ state: z.enum(['active', 'locked', 'left']), reason })
export const WithReason = z.strictObject({ reason })

/** A link to set a password by; it is told once and kept nowhere. */
export const PasswordLink = z.object({ token: z.string(), until: z.string() })
export type PasswordLink = z.output<typeof PasswordLink>
/** What a link opens. */
export const Invitation = z.object({ shownName: z.string(), name: z.string(), joins: z.boolean() })
export type Invitation = z.output<typeof Invitation>
export const TakeInvitation = z.strictObject({ password: Password })

export const ChangePassword = z.strictObject({
  now: z.string().min(1, 'Type the password of now.').max(200),
  next: Password,
  /** The same key under the new password; null where there is none. */
  key: WrappedKey.nullable(),
})

/** A person with all that an administrator sees. */
export const RegisteredPerson = Person.extend({
  state: z.enum(['invited', 'active', 'locked', 'left']),
  until: z.string().nullable(),
  demo: z.boolean(),
  key: z.string().nullable(),
  /** Until when a link to set a password is good; null without one. */
  linkUntil: z.string().nullable(),
  sessions: z.int(),
  seenAt: z.string().nullable(),
})
export type RegisteredPerson = z.output<typeof RegisteredPerson>

/** One place where somebody is signed in. */
export const OpenSession = z.object({
  /** Names it without opening it. */
  id: z.string(),
  begunAt: z.string(),
  seenAt: z.string(),
  address: z.string(),
  agent: z.string(),
  here: z.boolean(),
})
export type OpenSession = z.output<typeof OpenSession>
