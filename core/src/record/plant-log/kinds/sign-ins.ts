import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const address = z.string().max(60)
const name = z.string().max(120)

export const signedIn = plantKind({
  type: 'signed.in',
  group: 'sign-ins',
  payload: z.strictObject({ shownName: name, address }),
  title: 'Signed in',
  says: (p) => `${p.shownName} signed in from ${p.address}.`,
})
export const signInFailed = plantKind({
  type: 'sign-in.failed',
  group: 'sign-ins',
  payload: z.strictObject({ name, address, why: z.string().max(120) }),
  title: 'Sign-in failed',
  says: (p) => `“${p.name}” from ${p.address}: ${p.why}.`,
})
export const signedOut = plantKind({
  type: 'signed.out',
  group: 'sign-ins',
  payload: z.strictObject({ shownName: name, sessions: z.int().min(0), everywhere: z.boolean() }),
  title: 'Signed out',
  says: (p) =>
    p.everywhere
      ? `${p.sessions} ${p.sessions === 1 ? 'session' : 'sessions'} of ${p.shownName} ended.`
      : `${p.shownName} signed out.`,
})
