import type { ChainProofSchema } from '@calm/contract/events'
import { isForeign } from '@calm/core/signing/authors'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { proveRecord } from '@calm/core/record/hash-chain'
import { eq } from 'drizzle-orm'
import type { z } from 'zod'
import type { Executor } from '../db/connection.ts'
import { takenIn } from './authors.ts'
import { sha256 } from './digest.ts'
import { eventsOfLoop } from './events.ts'
import { loopRevisions, loops } from './schema.ts'

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
