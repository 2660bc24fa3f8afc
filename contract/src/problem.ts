import { z } from 'zod'

/** Every way to fail, with its status: the last part of a problem's type. */
export const PROBLEM_STATUS = {
  unreadable: 400,
  'sign-in': 401,
  'wrong-sign-in': 401,
  /** The password is right; the time code is asked for. */
  'second-factor': 401,
  'not-allowed': 403,
  'another-person': 403,
  'other-site': 403,
  'not-found': 404,
  conflict: 409,
  'no-device': 409,
  'too-large': 413,
  'unknown-encoding': 415,
  'other-host': 421,
  'wrong-values': 422,
  'wrong-package': 422,
  busy: 429,
  'too-many': 429,
  'our-fault': 500,
  'database-away': 503,
  'no-room': 507,
} as const

export type ProblemCode = keyof typeof PROBLEM_STATUS

/** The type of a problem as it stands in the answer. */
export const problemType = (code: ProblemCode) => `urn:calm-loop:${code}`

/** What every failure looks like over HTTP (RFC 9457), with the path of each wrong value. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string().optional(),
  /** Field path and sentence of each wrong value. */
  errors: z.array(z.object({ path: z.string(), says: z.string(), code: z.string().optional() })).optional(),
  requestId: z.string().optional(),
})
export type Problem = z.output<typeof Problem>
