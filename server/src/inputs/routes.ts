import { InputVerification, InputVerified, LiveInput } from '@calm/contract/inputs'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { liveInput, verifyInput } from './store.ts'

const params = z.object({ loop: z.string().min(1).max(80) })

export const inputRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/input',
    summary: 'A discrete input as it is now, with its raw edges',
    allow: EVERYONE,
    params,
    query: z.object({
      seconds: z.coerce
        .number()
        .min(1)
        .max(4 * 3600)
        .default(60),
    }),
    response: LiveInput,
    handle: async ({ params, query }) =>
      liveInput(db, await loopIdOf(db, params.loop), query.seconds, clock().getTime()),
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/input/verifications',
    summary: 'Judge and record what was looked at of an input; sending twice is harmless',
    allow: WORKERS,
    params,
    body: InputVerification,
    response: InputVerified,
    status: 201,
    handle: async ({ params, body, person }) =>
      verifyInput(db, await loopIdOf(db, params.loop), body, person, clock()),
  }),
]
