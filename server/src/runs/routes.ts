import { RunInfo, StoredEvent } from '@calm/contract/events'
import { z } from 'zod'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { toldEvents } from '../record/chain.ts'
import { certificateData } from '../reports/certificate-data.ts'
import { certificatePdf } from '../reports/certificate.ts'
import { csvOf } from '../reports/csv.ts'
import { readingsTable } from '../reports/readings-table.ts'
import { runRow, runsOfLoop } from './store.ts'

const params = z.object({ run: z.uuid() })

export const runRoutes = (db: Database): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/runs/:run',
    summary: 'One verification with its events',
    allow: EVERYONE,
    params,
    response: z.object({ run: RunInfo, events: z.array(StoredEvent) }),
    async handle({ params }) {
      const row = await runRow(db, params.run)
      const run = (await runsOfLoop(db, row.loopId)).find((r) => r.id === row.id)
      if (!run) throw notFound('run')
      const events = (await toldEvents(db, row.loopId)).filter((e) => e.runId === row.id)
      return { run, events }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/runs/:run/readings.csv',
    summary: 'The readings of a verification as CSV',
    allow: EVERYONE,
    params,
    response: 'text/csv',
    async handle({ params, res }) {
      const data = await certificateData(db, params.run)
      res
        .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-readings.csv`)
        .type('text/csv; charset=utf-8')
        .send(csvOf(readingsTable(data)))
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/runs/:run/certificate.pdf',
    summary: 'The certificate of a verification',
    allow: EVERYONE,
    params,
    response: 'application/pdf',
    async handle({ params, res }) {
      const data = await certificateData(db, params.run)
      const pdf = await certificatePdf(data)
      res
        .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-certificate.pdf`)
        .type('application/pdf')
        .send(pdf)
    },
  }),
]
