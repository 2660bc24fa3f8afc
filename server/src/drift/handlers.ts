import type { Clock } from '../clock.ts'
import { enterPast } from './past.ts'
import type { Database } from '../db/connection.ts'
import { loops, plant } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { historyOf, plantDrift } from './store.ts'

export const driftHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(plant.enterPast, ({ body, person }) => enterPast(db, body, person, clock())),
  bind(plant.drift, () => plantDrift(db)),
  bind(loops.drift, async ({ params }) => historyOf(db, await loopIdOf(db, params.loop))),
]
