import { loops } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { loopDetail } from '../loops/store.ts'
import { archiveLoop, bringLoopBack } from './archive.ts'
import { changeSeveral } from './several.ts'

/** Loops begin and end, and are changed several at once. */
export const loopLifeHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loops.several, ({ body, person }) => db.transaction((tx) => changeSeveral(tx, body, person, clock()))),
  bind(loops.archive, async ({ params, body, person }) =>
    loopDetail(db, await db.transaction((tx) => archiveLoop(tx, params.loop, body.reason, person, clock()))),
  ),
  bind(loops.bringBack, async ({ params, body, person }) =>
    loopDetail(
      db,
      await db.transaction((tx) => bringLoopBack(tx, params.loop, body.reason, person, clock())),
    ),
  ),
]
