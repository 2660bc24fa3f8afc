import { ChainProofSchema, NewEvents, RunInfo, StoredEvent } from '@calm/contract/events'
import { LoopDetail, LoopRow, NewLoop, Revision, SaveRevision } from '@calm/contract/loops'
import { pocketCard, QUARTER_LEVELS } from '@calm/core/scale/pocket-card'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { proveLoop, toldEvents } from '../record/chain.ts'
import { csvOf } from '../reports/csv.ts'
import { pocketCardPdf, pocketCardRows } from '../reports/pocket-card.ts'
import { acceptEvents, runsOfLoop } from '../runs/store.ts'
import { allLoops, createLoop, loopDetail, loopIdOf, revisionsOf, saveRevision } from './store.ts'

/** Levels in percent of range, separated by commas; the quarter points where none are given. */
const CardLevels = z.object({
  levels: z
    .string()
    .max(400)
    .default(QUARTER_LEVELS.join(','))
    .transform((text) => text.split(',').map((x) => Number(x.trim())))
    .refine((list) => list.length <= 50 && list.every((x) => Number.isFinite(x) && x >= -10 && x <= 110), {
      message: 'Up to 50 levels between −10 and 110 %, separated by commas.',
    }),
})
const params = z.object({ loop: z.string().min(1).max(80) })

export const loopRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops',
    summary: 'The plant’s loops by area',
    allow: EVERYONE,
    response: z.array(LoopRow),
    handle: () => allLoops(db),
  }),
  endpoint({
    method: 'post',
    path: '/api/loops',
    summary: 'Add a loop',
    allow: WORKERS,
    body: NewLoop,
    response: LoopDetail,
    status: 201,
    async handle({ body, person }) {
      await db.transaction((tx) => createLoop(tx, body.id, body.document, person, 'first entry', clock()))
      return loopDetail(db, body.id)
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop',
    summary: 'One loop by tag or identifier',
    allow: EVERYONE,
    params,
    response: LoopDetail,
    handle: async ({ params }) => loopDetail(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'put',
    path: '/api/loops/:loop/document',
    summary: 'Save a new revision',
    allow: WORKERS,
    params,
    body: SaveRevision,
    response: LoopDetail,
    async handle({ params, body, person }) {
      const id = await loopIdOf(db, params.loop)
      await saveRevision(db, id, body.base, body.document, person, body.reason, clock())
      return loopDetail(db, id)
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/revisions',
    summary: 'All revisions, newest first',
    allow: EVERYONE,
    params,
    response: z.array(Revision),
    handle: async ({ params }) => revisionsOf(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/events',
    summary: 'Everything recorded of the loop, in order',
    allow: EVERYONE,
    params,
    response: z.array(StoredEvent),
    async handle({ params }) {
      return toldEvents(db, await loopIdOf(db, params.loop))
    },
  }),
  endpoint({
    method: 'post',
    path: '/api/loops/:loop/events',
    summary: 'Record what happened; sending twice is harmless',
    allow: WORKERS,
    params,
    body: NewEvents,
    response: z.object({ accepted: z.int() }),
    async handle({ params, body, person }) {
      return {
        accepted: await acceptEvents(db, await loopIdOf(db, params.loop), body.events, person, clock()),
      }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/runs',
    summary: 'Verifications of the loop, newest first',
    allow: EVERYONE,
    params,
    response: z.array(RunInfo),
    handle: async ({ params }) => runsOfLoop(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/pocket-card.pdf',
    summary: 'Every station at chosen levels, on one small page',
    allow: EVERYONE,
    params,
    query: CardLevels,
    response: 'application/pdf',
    async handle({ params, query, res }) {
      const loop = await loopDetail(db, await loopIdOf(db, params.loop))
      const pdf = await pocketCardPdf(loop.document, loop.revision, query.levels)
      res.attachment(`${loop.tag}-pocket-card.pdf`).type('application/pdf').send(pdf)
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/pocket-card.csv',
    summary: 'The same as CSV',
    allow: EVERYONE,
    params,
    query: CardLevels,
    response: 'text/csv',
    async handle({ params, query, res }) {
      const loop = await loopDetail(db, await loopIdOf(db, params.loop))
      const rows = pocketCardRows(pocketCard(loop.document.path, query.levels))
      res.attachment(`${loop.tag}-pocket-card.csv`).type('text/csv; charset=utf-8').send(csvOf(rows))
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/chain',
    summary: 'Proof that the record is complete and unchanged',
    allow: EVERYONE,
    params,
    response: ChainProofSchema,
    handle: async ({ params }) => proveLoop(db, await loopIdOf(db, params.loop)),
  }),
  endpoint({
    method: 'get',
    path: '/api/chain',
    summary: 'The same proof for every loop of the plant',
    allow: ['reviewer'],
    response: z.object({
      loops: z.int(),
      broken: z.array(z.object({ tag: z.string(), proof: ChainProofSchema })),
    }),
    async handle() {
      const all = await allLoops(db)
      const broken = []
      for (const loop of all) {
        const proof = await proveLoop(db, loop.id)
        if (proof.kind === 'broken') broken.push({ tag: loop.tag, proof })
      }
      return { loops: all.length, broken }
    },
  }),
]
