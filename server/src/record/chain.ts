import type { ChainProofSchema, StoredEvent } from '@calm/contract/events'
import { PackageTakenIn } from '@calm/contract/recorded'
import { authorOf, isForeign, nameOfAuthor, type Taken } from '@calm/core/record/authors'
import { isOutOfOrder } from '@calm/core/record/event-time'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { proveRecord, type ChainedEvent } from '@calm/core/record/hash-chain'
import { asc, eq } from 'drizzle-orm'
import type { z } from 'zod'
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

/** Everything before an event of this kind came with a package. */
export const PACKAGE_TAKEN = 'package.taken'

/** What a record's own events say of the packages that it came with, also those of plants before. */
export const takenIn = (
  all: readonly { readonly type: string; readonly by: string; readonly payload?: unknown }[],
): Taken[] =>
  all.flatMap((e) => {
    if (e.type !== PACKAGE_TAKEN) return []
    const { events: n, people } = PackageTakenIn.parse(e.payload)
    return [{ events: n, by: e.by, names: Object.fromEntries(people.map((p) => [p.id, p.shownName])) }]
  })

/** Which packages brought a loop's record here, as its row keeps it. */
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

export type LoopProof = z.output<typeof ChainProofSchema>

/**
 * Proves a loop's record: every event in its place and unchanged, no event cut off the end, and every
 * revision still the document whose hash the record holds; and tells how much of it is foreign.
 */
export async function proveLoop(db: Executor, loopId: string): Promise<LoopProof> {
  const chain = await eventsOfLoop(db, loopId)
  const revisions = await db.select().from(loopRevisions).where(eq(loopRevisions.loopId, loopId))
  const [end] = await db
    .select({ seq: loops.lastSeq, hash: loops.lastHash, taken: loops.taken })
    .from(loops)
    .where(eq(loops.id, loopId))
  const proof = proveRecord(loopId, chain, revisions, sha256, end)
  if (proof.kind === 'broken') return proof
  // Out of the chain itself: the loop's own row could be changed.
  const taken = takenIn(chain)
  if (canonicalJson(taken) !== canonicalJson(end?.taken ?? []))
    return {
      kind: 'broken',
      seq: proof.events,
      eventId: chain.at(-1)?.id ?? '',
      says: 'Which packages the record came with is not what its events say.',
    }
  return { ...proof, foreign: chain.filter((e) => isForeign(e.seq, e.by, taken)).length }
}
