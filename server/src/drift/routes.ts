import { DriftRow, LoopHistory } from '@calm/contract/drift'
import { z } from 'zod'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { historyOf, plantDrift } from './store.ts'

export const driftRoutes = (db: Database): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/drift',
    summary: 'Who drifts, those that leave their tolerance first at the top',
    allow: EVERYONE,
    response: z.array(DriftRow),
    handle: () => plantDrift(db),
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/drift',
    summary: 'Errors of a loop over its verifications, by level',
    allow: EVERYONE,
    params: z.object({ loop: z.string().min(1).max(80) }),
    response: LoopHistory,
    handle: async ({ params }) => historyOf(db, await loopIdOf(db, params.loop)),
  }),
]
