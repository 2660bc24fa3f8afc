import { randomUUID } from 'node:crypto'
import { wrongInEvent } from '@calm/core/record/kinds/wrong-in-event'
import { eventHash, HASH_FORM, type ChainedEvent } from '@calm/core/record/hash-chain'
import { and, eq, isNull, sql, type Placeholder, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, notFound } from '../http/problems.ts'
import { sha256 } from './digest.ts'
import { events, loops } from './schema.ts'

/** Where the record of a loop ends; the next event ties on to it. */
export interface ChainHead {
  readonly loopId: string
  seq: number
  hash: string
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i
export const isIdentifier = (idOrTag: string): boolean => UUID.test(idOrTag)
/** The loop in use with a tag, whatever the case. */
export const byTag = (tag: SQL) =>
  and(eq(sql`upper(${loops.tag})`, sql`upper(${tag})`), isNull(loops.archivedAt))
/** A loop by its identifier, or one in use by its tag, whatever the case. */
export const whichLoop = (idOrTag: string) =>
  isIdentifier(idOrTag) ? eq(loops.id, idOrTag) : byTag(sql`${idOrTag}::text`)

const name = sql.placeholder('name')
const heldById = prepared('loop_held_by_id', (db) =>
  db.select().from(loops).where(eq(loops.id, name)).for('update'),
)
const heldByTag = prepared('loop_held_by_tag', (db) =>
  db
    .select()
    .from(loops)
    .where(byTag(sql`${name}::text`))
    .for('update'),
)

/**
 * Takes the loop's row for this transaction: events are accepted one writer at a time, and none on a loop that is out
 * of use.
 * @throws HttpProblem 404, 409
 */
export async function holdLoop(tx: Executor, idOrTag: string, { evenArchived = false } = {}) {
  const [row] = await (isIdentifier(idOrTag) ? heldById : heldByTag)(tx, { name: idOrTag })
  if (!row) throw notFound('loop')
  if (row.archivedAt !== null && !evenArchived)
    throw conflict(
      `${row.tag} is out of use since ${isoInstant(row.archivedAt).slice(0, 10)}: nothing is recorded on it. Bring it back first.`,
    )
  const head: ChainHead = { loopId: row.id, seq: row.lastSeq, hash: row.lastHash }
  return { row, head }
}

export interface Happening {
  readonly id?: string
  readonly runId: string | null
  readonly type: string
  readonly at: Date
  readonly by: string
  readonly payload: unknown
}

/** Events as they follow the head, each with the hash of the one before it; the head moves on with them. */
export function chainedAfter(
  head: ChainHead,
  happenings: readonly Happening[],
  recordedAt: Date,
): ChainedEvent[] {
  return happenings.map((h): ChainedEvent => {
    const wrong = wrongInEvent(h.type, h.runId, h.payload)
    if (wrong) throw new Error(`event ${h.type} cannot be recorded: ${wrong.path}: ${wrong.says}`)
    const e = {
      id: h.id ?? randomUUID(),
      loopId: head.loopId,
      runId: h.runId,
      seq: head.seq + 1,
      type: h.type,
      at: isoInstant(h.at),
      recordedAt: isoInstant(recordedAt),
      form: HASH_FORM,
      by: h.by,
      payload: h.payload,
      previous: head.hash,
    } as const
    const hash = eventHash(e, sha256)
    head.seq = e.seq
    head.hash = hash
    return { ...e, hash }
  })
}

/**
 * Chained events into their table, however many; as part of a statement that does more too.
 * @param chained - by `eventsText`
 */
export const storing = (chained: string | Placeholder) => sql`insert into ${events}
  (id, loop_id, run_id, seq, type, at, recorded_at, form, by, payload, previous, hash)
  select id, "loopId", "runId", seq, type, at, "recordedAt", form, by, payload, previous, hash
  from jsonb_to_recordset(${chained}::jsonb) as e(
    id uuid, "loopId" uuid, "runId" uuid, seq integer, type text, at timestamptz, "recordedAt" timestamptz,
    form smallint, by uuid, payload jsonb, previous text, hash text)`
export const eventsText = (chained: readonly ChainedEvent[]): string => JSON.stringify(chained)
/** Stores events that were chained, of one loop or of many. */
export async function storeChained(tx: Executor, chained: readonly ChainedEvent[]): Promise<void> {
  if (chained.length > 0) await tx.execute(storing(eventsText(chained)))
}

/**
 * Writes events after the head, each with the hash of the one before it and the server's time. Where the record
 * ends now is told by the head; whoever holds the loop's row stores it there in the same transaction.
 * @throws Error for a kind or contents that no record may hold: whoever asks has checked them
 */
export async function write(
  tx: Executor,
  head: ChainHead,
  happenings: readonly Happening[],
  recordedAt: Date,
): Promise<ChainedEvent[]> {
  const chained = chainedAfter(head, happenings, recordedAt)
  await storeChained(tx, chained)
  return chained
}

/** The same, with the loop's row: its record ends here now. */
export async function append(
  tx: Executor,
  head: ChainHead,
  happenings: readonly Happening[],
  recordedAt: Date,
): Promise<ChainedEvent[]> {
  const chained = await write(tx, head, happenings, recordedAt)
  if (chained.length > 0)
    await tx.update(loops).set({ lastSeq: head.seq, lastHash: head.hash }).where(eq(loops.id, head.loopId))
  return chained
}
