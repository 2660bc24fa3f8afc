import { plantLog } from '@calm/contract/api/addresses'
import { reviewed } from '@calm/core/record/plant-log/kinds/plant'
import { eq, sql } from 'drizzle-orm'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { csvOf } from '../reports/csv.ts'
import { note } from '../plant-log/note.ts'
import { lastReview, logEntries } from './read.ts'
import { plantEvents, unsealed } from '../plant-log/schema.ts'
import { allHeads, newestHead, plantKeys } from '../plant-log/sealer.ts'

/** Most rows of a table at once: more are asked for by dates. */
const MOST_ROWS = 50_000

export const logbookHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(plantLog.page, async ({ query }) => ({
    entries: await logEntries(db, query),
    reviewed: await lastReview(db),
  })),
  bind(plantLog.table, async ({ query, res }) => {
    const entries = await logEntries(db, { ...query, most: MOST_ROWS })
    const rows = entries.map((e) => [e.at, e.byName, e.group ?? '', e.title, e.says, e.reason])
    res
      .attachment(`log-${clock().toISOString().slice(0, 10)}.csv`)
      .type('text/csv; charset=utf-8')
      .send(csvOf([['time (UTC)', 'who', 'about', 'what', 'in words', 'reason'], ...rows]))
  }),
  bind(plantLog.review, async ({ body, person }) => {
    await db.transaction(async (tx) => {
      const [last] = await tx.select().from(plantEvents).where(eq(plantEvents.position, body.position))
      if (!last) throw notFound('entry')
      const before = (await lastReview(tx))?.position ?? 0
      const [n] = await tx
        .select({ n: sql<number>`count(*)::int` })
        .from(plantEvents)
        .where(sql`${plantEvents.position} > ${before} and ${plantEvents.position} <= ${body.position}`)
      await note(
        tx,
        {
          kind: reviewed,
          payload: { upTo: isoInstant(last.at), entries: n?.n ?? 0 },
          by: person.id,
          subject: String(body.position),
        },
        clock(),
      )
    })
    return lastReview(db)
  }),
  bind(plantLog.head, async () => {
    const head = await newestHead(db)
    const [n] = await db.select({ n: sql<number>`count(*)::int` }).from(unsealed)
    return {
      head,
      waiting: n?.n ?? 0,
      publicKey: head ? ((await plantKeys(db)).get(head.key) ?? null) : null,
    }
  }),
  bind(plantLog.heads, async ({ res }) => {
    const heads = await allHeads(db)
    res
      .attachment(`heads-${clock().toISOString().slice(0, 10)}.jsonl`)
      .type('application/jsonl')
      .send(heads.map((h) => `${JSON.stringify(h)}\n`).join(''))
  }),
]
