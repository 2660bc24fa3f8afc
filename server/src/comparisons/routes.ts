import { KeptComparison, NewComparison } from '@calm/contract/comparisons'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { comparisonsOf, keepComparison } from './store.ts'

const params = z.object({ loop: z.string().min(1).max(80) })

export const comparisonRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/comparisons',
    summary: 'Comparisons with a reference, the baseline first',
    allow: EVERYONE,
    params,
    response: z.array(KeptComparison),
    handle: async ({ params }) => comparisonsOf(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/comparisons',
    summary: 'Hold readings against a reference and keep it; sending twice is harmless',
    allow: WORKERS,
    params,
    body: NewComparison,
    response: KeptComparison,
    status: 201,
    handle: async ({ params, body, person }) =>
      keepComparison(db, await loopIdOf(db, params.loop), body, person, clock()),
  }),
]
