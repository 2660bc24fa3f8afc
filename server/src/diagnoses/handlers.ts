import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { loops } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { recordDiagnosis } from './store.ts'

export const diagnosisHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loops.diagnose, async ({ params, body, person }) => {
    return { stored: await recordDiagnosis(db, await loopIdOf(db, params.loop), body, person, clock()) }
  }),
]
