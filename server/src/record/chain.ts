import type { StoredEvent } from '@calm/contract/events'
import { authorOf, isForeign, nameOfAuthor, type Taken } from '@calm/core/record/authors'
import { isOutOfOrder } from '@calm/core/record/event-time'
import { proveRecord, type ChainedEvent, type ChainProof } from '@calm/core/record/hash-chain'
import { asc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { loopRevisions, loops } from '../loops/schema.ts'
import { allPeople } from '../people/store.ts'
import { events } from '../runs/schema.ts'
import { sha256 } from './digest.ts'

export async function eventsOfLoop(db: Executor, loopId: string): Promise<ChainedEvent[]> {
  const rows = await db.select().from(events).where(eq(events.loopId, loopId)).orderBy(asc(events.seq))
  return rows.map((e) => ({ ...e, at: isoInstant(e.at), recordedAt: isoInstant(e.recordedAt) }))
}

/** Which packages brought a loop's record here. */
export async function takenOf(db: Executor, loopId: string): Promise<readonly Taken[]> {
  const [row] = await db.select({ taken: loops.taken }).from(loops).where(eq(loops.id, loopId))
  return row?.taken ?? []
}

/** Names for the authors of a loop's events; foreign ones are shown as such. */
export interface Authors {
  readonly author: (seq: number, by: string) => string
  readonly foreign: (seq: number, by: string) => boolean
  /** Name of an author as a fold keeps it. */
  readonly name: (author: string) => string
}
export async function authorsOf(db: Executor, loopId: string): Promise<Authors> {
  const taken = await takenOf(db, loopId)
  const here = new Map((await allPeople(db)).map((p) => [p.id, p.shownName]))
  return {
    author: (seq, by) => authorOf(seq, by, taken),
    foreign: (seq, by) => isForeign(seq, by, taken),
    name: (author) => nameOfAuthor(author, here, taken),
  }
}

/** The record as it is shown: with names, and with what must be seen of each event. */
export async function toldEvents(db: Executor, loopId: string): Promise<StoredEvent[]> {
  const { author, foreign, name } = await authorsOf(db, loopId)
  const all = await eventsOfLoop(db, loopId)
  return all.map((e, i) => ({
    ...e,
    byName: name(author(e.seq, e.by)),
    foreign: foreign(e.seq, e.by),
    outOfOrder: isOutOfOrder(e.at, all[i - 1]?.at),
  }))
}

/**
 * Proves a loop's record: every event in its place and unchanged, no event cut off the end, and every
 * revision still the document whose hash the record holds.
 */
export async function proveLoop(db: Executor, loopId: string): Promise<ChainProof> {
  const chain = await eventsOfLoop(db, loopId)
  const revisions = await db.select().from(loopRevisions).where(eq(loopRevisions.loopId, loopId))
  const [end] = await db
    .select({ seq: loops.lastSeq, hash: loops.lastHash })
    .from(loops)
    .where(eq(loops.id, loopId))
  return proveRecord(loopId, chain, revisions, sha256, end)
}
