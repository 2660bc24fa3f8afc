import {
  HeldRow,
  ImportRequest,
  ImportResult,
  MendRow,
  Preview,
  PreviewRequest,
} from '@calm/contract/loop-list'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { allHeld, exportList, importList, letGo, mendRow, preview } from './store.ts'

const params = z.object({ row: z.uuid() })

export const loopListRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'post',
    path: '/api/loop-list/preview',
    summary: 'What an import of this list would do, row by row',
    allow: WORKERS,
    body: PreviewRequest,
    response: Preview,
    handle: ({ body }) => preview(db, body.text, body.mapping),
  }),
  endpoint({
    method: 'post',
    path: '/api/loop-list/import',
    summary: 'Import the good rows and hold the bad ones back',
    allow: WORKERS,
    body: ImportRequest,
    response: ImportResult,
    handle: ({ body, person }) => importList(db, body, person, clock()),
  }),
  endpoint({
    method: 'get',
    path: '/api/loop-list/held',
    summary: 'Rows held back for mending',
    allow: EVERYONE,
    response: z.array(HeldRow),
    handle: () => allHeld(db),
  }),
  endpoint({
    method: 'put',
    path: '/api/loop-list/held/:row',
    summary: 'Try a mended row again',
    allow: WORKERS,
    params,
    body: MendRow,
    response: z.object({ still: HeldRow.nullable() }),
    handle: async ({ params, body, person }) => ({
      still: await mendRow(db, params.row, body.cells, person, clock()),
    }),
  }),
  endpoint({
    method: 'delete',
    path: '/api/loop-list/held/:row',
    summary: 'Let a held row go',
    allow: WORKERS,
    params,
    response: z.null(),
    status: 204,
    async handle({ params }) {
      await letGo(db, params.row)
      return null
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loop-list.csv',
    summary: 'The plant’s list as CSV',
    allow: EVERYONE,
    response: 'text/csv',
    async handle({ res }) {
      res
        .attachment('loop-list.csv')
        .type('text/csv; charset=utf-8')
        .send(await exportList(db))
    },
  }),
]
