import type { NewEquipment } from '@calm/contract/equipment'
import type { DeviceLink } from '../devices/link.ts'
import type { Database } from '../db/connection.ts'
import { loops, runs } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict } from '../http/problems.ts'
import { eventsOfRun, withNames } from '../record/events.ts'
import { authorsOf, takenOf } from '../record/authors.ts'
import { foldEvents } from '../record/fold.ts'
import { signedAround } from './signing.ts'
import { runInfo, runRow, runsOfLoop } from '../record/runs.ts'
import { loopIdOf } from '../loops/store.ts'
import type { Clock } from '../clock.ts'
import { certificateData } from '../reports/certificate-data.ts'
import { procedureData } from '../reports/procedure-data.ts'
import { printCertificate, printProcedure } from '../reports/work.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { csvOf } from '../reports/csv.ts'
import { readingsTable } from '../reports/readings-table.ts'
import { acceptEvents } from './accept.ts'
import { waitingRecords } from './waiting.ts'

export const runHandlers = (db: Database, pool: Pool, clock: Clock, link: DeviceLink): Bound[] => [
  bind(loops.record, async ({ params, body, person }) => ({
    accepted: await acceptEvents(db, params.loop, body.events, person, link, clock()),
  })),
  bind(runs.waiting, async ({ person }) => waitingRecords(db, person)),
  bind(loops.runs, async ({ params }) => runsOfLoop(db, await loopIdOf(db, params.loop))),
  bind(runs.one, async ({ params }) => {
    const row = await runRow(db, params.run)
    const authors = await authorsOf(db, row.loopId)
    return {
      run: await runInfo(db, row, authors),
      events: withNames(authors, await eventsOfRun(db, row.id)),
    }
  }),
  bind(runs.signing, async ({ params }) => {
    const row = await runRow(db, params.run)
    const any = foldEvents(await eventsOfRun(db, row.id), await takenOf(db, row.loopId))
    if (!any) throw conflict('This run has no events yet.')
    const { document, instruments } = await signedAround(db, row.loopId, any)
    return { document, instruments: instruments as NewEquipment[] }
  }),
  bind(runs.readings, async ({ params, res }) => {
    const data = await certificateData(db, params.run)
    res
      .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-readings.csv`)
      .type('text/csv; charset=utf-8')
      .send(csvOf(readingsTable(data)))
  }),
  bind(runs.certificate, async ({ params, res, gone }) => {
    const { kind } = await runRow(db, params.run)
    if (kind === 'procedure') {
      const data = await procedureData(db, params.run)
      const pdf = resultOf(await pool.run(printProcedure, data, { signal: gone }))
      if (!pdf) throw conflict('This procedure is too long for one sheet.')
      res
        .attachment(`${data.document.tag}-${data.startedAt.slice(0, 10)}-procedure.pdf`)
        .type('application/pdf')
        .send(Buffer.from(pdf))
      return
    }
    const data = await certificateData(db, params.run)
    const pdf = resultOf(await pool.run(printCertificate, data, { signal: gone }))
    if (!pdf) throw conflict('This verification is too large for one certificate.')
    res
      .attachment(`${data.document.tag}-${data.run.startedAt.slice(0, 10)}-certificate.pdf`)
      .type('application/pdf')
      .send(Buffer.from(pdf))
  }),
]
