import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { loopList } from '@calm/contract/api/addresses'
import { progressTeller } from '../http/live.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { allImports, undoImport } from './undo.ts'
import { allHeld, exportList, exportSheet, importList, letGo, mendRow, preview } from './store.ts'

export const loopListHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loopList.preview, ({ body }) => preview(db, body)),
  bind(loopList.import, ({ body, person, gone }) =>
    importList(db, body, person, clock(), { gone, tell: progressTeller(db) }),
  ),
  bind(loopList.held, () => allHeld(db)),
  bind(loopList.mend, async ({ params, body, person }) => ({
    still: await mendRow(db, params.row, body.cells, person, clock()),
  })),
  bind(loopList.letGo, async ({ params }) => {
    await letGo(db, params.row)
    return null
  }),
  bind(loopList.imports, () => allImports(db)),
  bind(loopList.undo, ({ params, body, person }) =>
    undoImport(db, params.import, body.reason, person, clock()),
  ),
  bind(loopList.exportSheet, async ({ res }) => {
    res
      .attachment('loop-list.xlsx')
      .type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')
      .send(await exportSheet(db))
  }),
  bind(loopList.export, async ({ res }) => {
    res
      .attachment('loop-list.csv')
      .type('text/csv; charset=utf-8')
      .send(await exportList(db))
  }),
]
