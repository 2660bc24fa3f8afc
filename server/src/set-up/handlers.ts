import { loops } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { keepReadBack } from './read-back.ts'

/** What is done with a loop's settings sheet at the device. */
export const setUpHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loops.keepReadBack, async ({ params, body, person }) =>
    keepReadBack(db, await loopIdOf(db, params.loop), body, person, clock()),
  ),
]
