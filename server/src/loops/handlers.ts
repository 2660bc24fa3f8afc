import type { LoopDetail } from '@calm/contract/loops'
import { sayInstantAs, type DatesAs } from '@calm/core/quantity/date-form'
import type { Wiring } from '@calm/core/part/wiring'
import type { SheetHead } from '@calm/core/wire/sheet'
import { pocketCard } from '@calm/core/scale/pocket-card'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { loops } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict } from '../http/problems.ts'
import { eventsOfLoop, tellEvents } from '../record/events.ts'
import { proveLoop } from '../record/prove.ts'
import { csvOf } from '../reports/csv.ts'
import { pocketCardRows } from '../reports/pocket-card.ts'
import { stationeryOf } from '../reports/stationery.ts'
import { wiringSvg } from '../reports/wiring-svg.ts'
import { printPocketCard, printSettingsSheet, printWiring } from '../reports/work.ts'
import { plantRules } from '../settings/store.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { refuseArea } from './areas.ts'
import { allLoops, createLoop, loopDetail, loopIdOf, revisionsOf, saveRevision } from './store.ts'

/** What a drawing to hand over shows: the wiring as saved, and by whom. */
function drawnOf(loop: LoopDetail, dates: DatesAs): { wiring: Wiring; head: SheetHead } {
  const { tag, service, wiring } = loop.document
  if (wiring === null) throw conflict('Nothing is wired on this loop yet.')
  const date = sayInstantAs(loop.revisedAt, dates)
  return { wiring, head: { tag, service, revision: loop.revision, date, by: loop.revisedBy } }
}

export const loopHandlers = (db: Database, pool: Pool, clock: Clock): Bound[] => [
  bind(loops.list, ({ query }) => allLoops(db, query)),
  bind(loops.add, async ({ body, person }) => {
    refuseArea(person, body.document.area)
    await db.transaction((tx) => createLoop(tx, body.id, body.document, person, 'first entry', clock()))
    return loopDetail(db, body.id)
  }),
  bind(loops.one, async ({ params }) => loopDetail(db, await loopIdOf(db, params.loop))),
  bind(loops.save, async ({ params, body, person }) => {
    refuseArea(person, body.document.area)
    const id = await loopIdOf(db, params.loop)
    await saveRevision(db, id, body.base, body.document, person, body.reason, clock())
    return loopDetail(db, id)
  }),
  bind(loops.revisions, async ({ params }) => revisionsOf(db, await loopIdOf(db, params.loop))),
  bind(loops.events, async ({ params, query: { since, most } }) => {
    const id = await loopIdOf(db, params.loop)
    // With the one before them: whether the first is out of the order of times shows beside it.
    const one = Math.min(since, 1)
    const all = await eventsOfLoop(db, id, since - one, most === undefined ? undefined : most + one)
    return (await tellEvents(db, id, all)).slice(one)
  }),
  bind(loops.settingsSheet, async ({ params, res, gone }) => {
    const loop = await loopDetail(db, await loopIdOf(db, params.loop))
    const { document, revision, revisedAt, revisedBy } = loop
    const order = (await plantRules(db)).sheetOrder
    const stationery = await stationeryOf(db)
    const pdf = resultOf(
      await pool.run(
        printSettingsSheet,
        { document, revision, revisedAt, revisedBy, order, stationery },
        { signal: gone },
      ),
    )
    if (!pdf) throw conflict('Nobody has begun a set-up of this loop: it has no settings sheet.')
    res.attachment(`${loop.tag}-settings.pdf`).type('application/pdf').send(Buffer.from(pdf))
  }),
  bind(loops.pocketCard, async ({ params, query, res, gone }) => {
    const loop = await loopDetail(db, await loopIdOf(db, params.loop))
    const { document, revision } = loop
    const pdf = resultOf(
      await pool.run(
        printPocketCard,
        { document, revision, levels: query.levels, sign: (await plantRules(db)).decimalSign },
        { signal: gone },
      ),
    )
    if (!pdf) throw conflict('These levels are too many for one card.')
    res.attachment(`${loop.tag}-pocket-card.pdf`).type('application/pdf').send(Buffer.from(pdf))
  }),
  bind(loops.pocketCardTable, async ({ params, query, res }) => {
    const loop = await loopDetail(db, await loopIdOf(db, params.loop))
    const rows = pocketCardRows(pocketCard(loop.document.path, query.levels))
    res.attachment(`${loop.tag}-pocket-card.csv`).type('text/csv; charset=utf-8').send(csvOf(rows))
  }),
  bind(loops.wiring, async ({ params, res }) => {
    const { paper, dates, decimalSign } = await plantRules(db)
    const { wiring, head } = drawnOf(await loopDetail(db, await loopIdOf(db, params.loop)), dates)
    res
      .attachment(`${head.tag}-wiring.svg`)
      .type('image/svg+xml')
      .send(wiringSvg(wiring, head, paper, decimalSign))
  }),
  bind(loops.wiringPaper, async ({ params, res, gone }) => {
    const { paper, dates, decimalSign } = await plantRules(db)
    const drawn = drawnOf(await loopDetail(db, await loopIdOf(db, params.loop)), dates)
    const pdf = resultOf(
      await pool.run(printWiring, { ...drawn, paper, sign: decimalSign }, { signal: gone }),
    )
    if (!pdf) throw conflict('This wiring is too large for one sheet.')
    res.attachment(`${drawn.head.tag}-wiring.pdf`).type('application/pdf').send(Buffer.from(pdf))
  }),
  bind(loops.proof, async ({ params }) => proveLoop(db, await loopIdOf(db, params.loop))),
]
