import { loops } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict } from '../http/problems.ts'
import { allLoops, loopDetail } from '../loops/store.ts'
import { stationeryOf } from '../reports/stationery.ts'
import { printLabels } from '../reports/work.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { archiveLoop, bringLoopBack } from './archive.ts'
import { changeSeveral } from './several.ts'

/** Loops begin and end, and are changed several at once. */
export const loopLifeHandlers = (
  db: Database,
  pool: Pool,
  clock: Clock,
  /** As people type it; null: as this one did who asks. */
  address: string | null,
): Bound[] => [
  bind(loops.labels, async ({ query, req, res, gone }) => {
    const wanted = query.tags && new Set(query.tags.map((t) => t.toUpperCase()))
    const all = (await allLoops(db)).filter((l) =>
      wanted ? wanted.has(l.tag.toUpperCase()) : query.area === undefined || l.area === query.area,
    )
    if (all.length === 0) throw conflict('No loop in use is among these.')
    const at = address ?? `${req.protocol}://${req.get('host') ?? ''}`
    const labelled = all.map(({ tag, service }) => ({
      tag,
      service,
      address: `${at.replace(/\/$/, '')}/loops/${encodeURIComponent(tag)}`,
    }))
    const stationery = await stationeryOf(db)
    const pdf = resultOf(await pool.run(printLabels, { stationery, loops: labelled }, { signal: gone }))
    if (!pdf) throw conflict('These labels are too many at once: choose an area.')
    res.attachment('labels.pdf').type('application/pdf').send(Buffer.from(pdf))
  }),
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
