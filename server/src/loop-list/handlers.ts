import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { loopList } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { allHeld, exportList, importList, letGo, mendRow, preview } from './store.ts'

export const loopListHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loopList.preview, ({ body }) => preview(db, body.text, body.mapping)),
  bind(loopList.import, ({ body, person }) => importList(db, body, person, clock())),
  bind(loopList.held, () => allHeld(db)),
  bind(loopList.mend, async ({ params, body, person }) => ({
    still: await mendRow(db, params.row, body.cells, person, clock()),
  })),
  bind(loopList.letGo, async ({ params }) => {
    await letGo(db, params.row)
    return null
  }),
  bind(loopList.export, async ({ res }) => {
    res
      .attachment('loop-list.csv')
      .type('text/csv; charset=utf-8')
      .send(await exportList(db))
  }),
]
