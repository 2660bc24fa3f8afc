import { canonicalJson } from './canonical-json.ts'

/** What is hashed of a recorded event; `previous` ties it to the one before it in its loop. */
export interface ChainedEvent {
  readonly id: string
  readonly loopId: string
  readonly runId: string | null
  /** Position in the loop's record, from 1. */
  readonly seq: number
  readonly type: string
  /** When it happened, by the clock where it happened. */
  readonly at: string
  readonly by: string
  readonly payload: unknown
  readonly previous: string
  readonly hash: string
}

/** Hash before the first event of a loop. */
export const CHAIN_START = '0'.repeat(64)

/** Hexadecimal SHA-256 of a text; given by the server or the browser, the core has neither. */
export type Digest = (text: string) => string

/** Hash of an event over everything in it and the hash before it. */
export function eventHash(e: Omit<ChainedEvent, 'hash'>, digest: Digest): string {
  const { id, loopId, runId, seq, type, at, by, payload, previous } = e
  return digest(canonicalJson({ id, loopId, runId, seq, type, at, by, payload, previous }))
}

export type ChainProof =
  | { readonly kind: 'whole'; readonly events: number; readonly head: string }
  | { readonly kind: 'broken'; readonly seq: number; readonly eventId: string; readonly says: string }

/** Proves that a loop's events are complete, in order and unchanged; names the first that is not. */
export function proveChain(events: readonly ChainedEvent[], digest: Digest): ChainProof {
  let previous = CHAIN_START
  for (const [i, e] of events.entries()) {
    const broken = (says: string): ChainProof => ({ kind: 'broken', seq: e.seq, eventId: e.id, says })
    if (e.seq !== i + 1) return broken(`Event ${i + 1} is missing: the record goes on with number ${e.seq}.`)
    if (e.previous !== previous) return broken(`Event ${e.seq} does not follow from the one before it.`)
    if (eventHash(e, digest) !== e.hash)
      return broken(`Event ${e.seq} (${e.type}) was changed after it was recorded.`)
    previous = e.hash
  }
  return { kind: 'whole', events: events.length, head: previous }
}
