import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { comparisons } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopIdOf } from '../loops/store.ts'
import { comparisonsOf, keepComparison } from './store.ts'

export const comparisonHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(comparisons.list, async ({ params }) => comparisonsOf(db, await loopIdOf(db, params.loop))),
  bind(comparisons.keep, async ({ params, body, person }) =>
    keepComparison(db, await loopIdOf(db, params.loop), body, person, clock()),
  ),
]
