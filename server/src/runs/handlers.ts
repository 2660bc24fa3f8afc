import type { Database } from '../db/connection.ts'
import { runs } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { toldEvents } from '../record/chain.ts'
import { certificateData } from '../reports/certificate-data.ts'
import { certificatePdf } from '../reports/certificate.ts'
import { csvOf } from '../reports/csv.ts'
import { readingsTable } from '../reports/readings-table.ts'
import { runRow, runsOfLoop } from './store.ts'

export const runHandlers = (db: Database): Bound[] => [
  bind(runs.one, async ({ params }) => {
    const row = await runRow(db, params.run)
    const run = (await runsOfLoop(db, row.loopId)).find((r) => r.id === row.id)
    if (!run) throw notFound('run')
    const events = (await toldEvents(db, row.loopId)).filter((e) => e.runId === row.id)
    return { run, events }
  }),
  bind(runs.readings, async ({ params, res }) => {
    const data = await certificateData(db, params.run)
    res
      .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-readings.csv`)
      .type('text/csv; charset=utf-8')
      .send(csvOf(readingsTable(data)))
  }),
  bind(runs.certificate, async ({ params, res }) => {
    const data = await certificateData(db, params.run)
    const pdf = await certificatePdf(data)
    res
      .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-certificate.pdf`)
      .type('application/pdf')
      .send(pdf)
  }),
]
