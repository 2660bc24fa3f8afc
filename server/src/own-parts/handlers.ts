import { ownParts } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { changeOwnParts, ownPartsOf } from './store.ts'

/** Parts that a plant typed from their nameplates, and what other plants gave it. */
export const ownPartsHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(ownParts.list, () => ownPartsOf(db)),
  bind(ownParts.take, ({ body, person }) =>
    changeOwnParts(
      db,
      (now) => [...now.filter((p) => !body.parts.some((q) => q.title === p.title)), ...body.parts],
      person.id,
      clock(),
    ),
  ),
  bind(ownParts.letGo, ({ params, person }) =>
    changeOwnParts(db, (now) => now.filter((p) => p.title !== params.title), person.id, clock()),
  ),
]
