import { z } from 'zod'

/** technician: does the work and signs it; reviewer: also countersigns; viewer: only looks. */
export const ROLES = ['technician', 'reviewer', 'viewer'] as const
export const Role = z.enum(ROLES)
export type Role = z.output<typeof Role>

export const Person = z.object({ id: z.uuid(), name: z.string(), shownName: z.string(), role: Role })
export type Person = z.output<typeof Person>

/** Who may sign in to the demo plant, and how; nobody outside it. */
export const DemoSignIn = Person.omit({ id: true }).extend({ password: z.string() })
export type DemoSignIn = z.output<typeof DemoSignIn>

export const SignIn = z.strictObject({
  name: z.string().trim().min(1, 'Type your sign-in name.').max(60),
  password: z.string().min(1, 'Type your password.').max(200),
})

export const SessionInfo = z.object({ person: Person.nullable() })
export type SessionInfo = z.output<typeof SessionInfo>
