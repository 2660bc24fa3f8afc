import { NewDiagnosis } from '@calm/contract/diagnoses'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { recordDiagnosis } from './store.ts'

export const diagnosisRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/diagnoses',
    summary: 'Record where an error comes in; sending twice is harmless',
    allow: WORKERS,
    params: z.object({ loop: z.string().min(1).max(80) }),
    body: NewDiagnosis,
    response: z.object({ stored: z.boolean() }),
    status: 201,
    async handle({ params, body, person }) {
      return { stored: await recordDiagnosis(db, await loopIdOf(db, params.loop), body, person, clock()) }
    },
  }),
]
