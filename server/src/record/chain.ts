import { proveChain, type ChainedEvent, type ChainProof } from '@calm/core/record/hash-chain'
import { asc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { loopRevisions, loops } from '../loops/schema.ts'
import { events } from '../runs/schema.ts'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { sha256 } from './append.ts'

export async function eventsOfLoop(db: Executor, loopId: string): Promise<ChainedEvent[]> {
  const rows = await db.select().from(events).where(eq(events.loopId, loopId)).orderBy(asc(events.seq))
  return rows.map((e) => ({ ...e, at: isoInstant(e.at) }))
}

/**
 * Proves a loop's record: every event in its place and unchanged, no event cut off the end, and every
 * revision still the document whose hash the record holds.
 */
export async function proveLoop(db: Executor, loopId: string): Promise<ChainProof> {
  const chain = await eventsOfLoop(db, loopId)
  const proof = proveChain(chain, sha256)
  if (proof.kind === 'broken') return proof
  const [loop] = await db
    .select({ seq: loops.lastSeq, hash: loops.lastHash })
    .from(loops)
    .where(eq(loops.id, loopId))
  const last = chain.at(-1)
  if (loop && (loop.seq !== proof.events || loop.hash !== proof.head))
    return {
      kind: 'broken',
      seq: loop.seq,
      eventId: last?.id ?? '',
      says: `The record ends at event ${proof.events}, but ${loop.seq} were recorded.`,
    }
  const revisions = await db.select().from(loopRevisions).where(eq(loopRevisions.loopId, loopId))
  for (const e of chain) {
    if (e.type !== 'revision.saved') continue
    const told = e.payload as { number: number; documentHash: string }
    const revision = revisions.find((r) => r.number === told.number)
    if (!revision || sha256(canonicalJson(revision.document)) !== told.documentHash)
      return {
        kind: 'broken',
        seq: e.seq,
        eventId: e.id,
        says: `Revision ${told.number} is not the document that was recorded.`,
      }
  }
  return proof
}
