import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { inputs } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { liveInput, verifyInput } from './store.ts'

export const inputHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(inputs.look, async ({ params, query }) =>
    liveInput(db, await loopIdOf(db, params.loop), query.seconds, clock().getTime()),
  ),
  bind(inputs.verify, async ({ params, body, person }) =>
    verifyInput(db, await loopIdOf(db, params.loop), body, person, clock()),
  ),
]
