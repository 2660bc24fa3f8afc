import { randomUUID } from 'node:crypto'
import { wrongInEvent } from '@calm/contract/recorded'
import { eventHash, HASH_FORM, type ChainedEvent } from '@calm/core/record/hash-chain'
import { eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { notFound } from '../http/problems.ts'
import { loops } from '../loops/schema.ts'
import { events } from '../runs/schema.ts'
import { sha256 } from './digest.ts'

/** Where the record of a loop ends; the next event ties on to it. */
export interface ChainHead {
  readonly loopId: string
  seq: number
  hash: string
}

/** Takes the loop's row for this transaction: events are accepted one writer at a time. */
export async function holdLoop(tx: Executor, loopId: string) {
  const [row] = await tx.select().from(loops).where(eq(loops.id, loopId)).for('update')
  if (!row) throw notFound('loop')
  const head: ChainHead = { loopId, seq: row.lastSeq, hash: row.lastHash }
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

/**
 * Adds events to the end of a loop's record, each with the hash of the one before it and the server's time.
 * @throws Error for a kind or contents that no record may hold: whoever asks has checked them
 */
export async function append(
  tx: Executor,
  head: ChainHead,
  happenings: readonly Happening[],
  recordedAt: Date,
): Promise<ChainedEvent[]> {
  const chained = happenings.map((h): ChainedEvent => {
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
  if (chained.length === 0) return chained
  await tx
    .insert(events)
    .values(chained.map((e) => ({ ...e, at: new Date(e.at), recordedAt: new Date(e.recordedAt) })))
  await tx.update(loops).set({ lastSeq: head.seq, lastHash: head.hash }).where(eq(loops.id, head.loopId))
  return chained
}
