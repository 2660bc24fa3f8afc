import type { StoredEvent } from '@calm/contract/events'
import { isOutOfOrder } from '@calm/core/record/event-time'
import type { ChainedEvent } from '@calm/core/record/hash-chain'
import { and, asc, desc, eq, gt, sql, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { isoInstant } from '../db/time.ts'
import { authorsOf, type Authors } from './authors.ts'
import { events } from './schema.ts'

const asChained = (e: typeof events.$inferSelect): ChainedEvent => ({
  ...e,
  at: isoInstant(e.at),
  recordedAt: isoInstant(e.recordedAt),
})

async function read(db: Executor, which: SQL | undefined, most?: number): Promise<ChainedEvent[]> {
  const all = db.select().from(events).where(which).orderBy(asc(events.seq))
  return (await (most === undefined ? all : all.limit(most))).map(asChained)
}

/** The record of a loop in its order, whole or since an event. */
export const eventsOfLoop = (
  db: Executor,
  loopId: string,
  since = 0,
  most?: number,
): Promise<ChainedEvent[]> =>
  read(
    db,
    since === 0 ? eq(events.loopId, loopId) : and(eq(events.loopId, loopId), gt(events.seq, since)),
    most,
  )

/** What happened in one run, in its order. */
export const eventsOfRun = async (db: Executor, runId: string): Promise<ChainedEvent[]> =>
  (await ofRun(db, { runId })).map(asChained)
const ofRun = prepared('events_of_run', (db) =>
  db
    .select()
    .from(events)
    .where(eq(events.runId, sql.placeholder('runId')))
    .orderBy(asc(events.seq)),
)

/** Events of one kind, in their order. */
export const eventsOfKind = (db: Executor, loopId: string, type: string): Promise<ChainedEvent[]> =>
  read(db, and(eq(events.loopId, loopId), eq(events.type, type)))

/** The newest event of a kind; null without one. */
export async function newestOfKind(db: Executor, loopId: string, type: string): Promise<ChainedEvent | null> {
  const [row] = await db
    .select()
    .from(events)
    .where(and(eq(events.loopId, loopId), eq(events.type, type)))
    .orderBy(desc(events.seq))
    .limit(1)
  return row ? asChained(row) : null
}

/** Events as they are shown: with names, and with what must be seen of each. */
export const withNames = ({ author, foreign, name }: Authors, all: readonly ChainedEvent[]): StoredEvent[] =>
  all.map((e, i) => ({
    ...e,
    byName: name(author(e.seq, e.by)),
    foreign: foreign(e.seq, e.by),
    outOfOrder: isOutOfOrder(e.at, all[i - 1]?.at),
  }))
/** The same, with the names looked up. */
export const tellEvents = async (
  db: Executor,
  loopId: string,
  all: readonly ChainedEvent[],
): Promise<StoredEvent[]> => withNames(await authorsOf(db, loopId), all)
