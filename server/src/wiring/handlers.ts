import { loops } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { keepCircuitReadings } from './readings.ts'

/** What is read at the test points of a loop's wiring. */
export const wiringHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loops.keepReadings, async ({ params, body, person }) =>
    keepCircuitReadings(db, await loopIdOf(db, params.loop), body, person, clock()),
  ),
]
