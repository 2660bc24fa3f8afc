import type { z } from 'zod'
import { ROLES, type Role } from '@calm/core/signing/roles'
import type { ProblemCode } from '../problem.ts'

/** What is sent or answered where it is not JSON. */
export type MediaType =
  | 'text/calendar'
  | 'text/csv'
  | 'text/event-stream'
  | 'application/jsonl'
  | 'application/pdf'
  | 'application/zip'
  | 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
  | 'image/jpeg'
  | 'image/svg+xml'

/** One thing that can be asked for: who may, what comes in, what goes out, what may go wrong. Nothing is open by default. */
export interface Endpoint {
  /** One sentence for who has never seen it. */
  readonly says: string
  readonly allow: 'anyone' | readonly Role[]
  /** Also who has such a role in one area alone: its handler judges the area of every loop in it. */
  readonly byArea?: true
  readonly params?: z.ZodObject
  readonly query?: z.ZodObject
  readonly body?: z.ZodType | 'application/zip'
  /** The largest body; the usual one where it is silent. */
  readonly largest?: '5mb' | '64mb'
  readonly answer: z.ZodType | MediaType
  /** 200 where it is silent; 204 answers nothing, 303 sends a browser elsewhere. */
  readonly status?: 201 | 204 | 303
  /** It may also answer the same with this status. */
  readonly also?: 503
  /** What only this one refuses; what every one may refuse is not said again. */
  readonly problems?: readonly ProblemCode[]
}

export const EVERYONE: readonly Role[] = ROLES
export const WORKERS: readonly Role[] = ['technician', 'reviewer']
/** Who plans the work, and who does it. */
export const PLANNERS: readonly Role[] = ['planner', ...WORKERS]
export const ADMINISTRATORS: readonly Role[] = ['administrator']
/** Who looks whether all is in order. */
export const OVERSEERS: readonly Role[] = ['administrator', 'reviewer']

/** Problems that this endpoint may answer with, its own and those of its kind. */
export function problemsOf(e: Endpoint, method: string): readonly ProblemCode[] {
  const writes = method !== 'GET'
  return [
    'unreadable',
    ...(e.allow === 'anyone' ? [] : (['sign-in'] as const)),
    ...(e.allow === 'anyone' || e.allow.length === ROLES.length ? [] : (['not-allowed'] as const)),
    ...(writes ? (['other-site', 'another-person'] as const) : []),
    ...(e.body === undefined ? [] : (['too-large', 'unknown-encoding'] as const)),
    ...(e.params || e.query || e.body !== undefined ? (['wrong-values'] as const) : []),
    'other-host',
    'busy',
    ...(e.problems ?? []),
    'our-fault',
    'database-away',
    ...(writes ? (['no-room'] as const) : []),
  ]
}
