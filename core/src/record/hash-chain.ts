import { canonicalJson } from './canonical-json.ts'

/**
 * What is hashed of a recorded event; `previous` ties it to the one before it in its loop.
 *
 * Form 1 is how events were hashed before the server's own time went in; a record may begin with some of them and
 * never goes back to it.
 */
export interface ChainedEvent {
  readonly id: string
  readonly loopId: string
  readonly runId: string | null
  /** Position in the loop's record, from 1. */
  readonly seq: number
  readonly type: string
  /** When it happened, by the clock where it happened. */
  readonly at: string
  /** When the server took it in, by the server's clock. Inside the hash from form 2 on. */
  readonly recordedAt: string
  readonly form: 1 | 2
  readonly by: string
  readonly payload: unknown
  readonly previous: string
  readonly hash: string
}

/** The form in which new events are hashed. */
export const HASH_FORM = 2

/** Hash before the first event of a loop. */
export const CHAIN_START = '0'.repeat(64)

/** Hexadecimal SHA-256 of a text; given by the server or the browser, the core has neither. */
export type Digest = (text: string) => string

/** Hash of an event over everything in it and the hash before it. */
export function eventHash(e: Omit<ChainedEvent, 'hash'>, digest: Digest): string {
  const { id, loopId, runId, seq, type, at, recordedAt, by, payload, previous } = e
  const first = { id, loopId, runId, seq, type, at, by, payload, previous }
  return digest(canonicalJson(e.form === 1 ? first : { ...first, recordedAt }))
}

export type ChainProof =
  | { readonly kind: 'whole'; readonly events: number; readonly head: string }
  | { readonly kind: 'broken'; readonly seq: number; readonly eventId: string; readonly says: string }

/** Proves that a loop's events are complete, in order and unchanged; names the first that is not. */
export function proveChain(events: readonly ChainedEvent[], digest: Digest): ChainProof {
  let previous = CHAIN_START
  let form: 1 | 2 = 1
  for (const [i, e] of events.entries()) {
    const broken = (says: string): ChainProof => ({ kind: 'broken', seq: e.seq, eventId: e.id, says })
    if (e.seq !== i + 1) return broken(`Event ${i + 1} is missing: the record goes on with number ${e.seq}.`)
    if (e.previous !== previous) return broken(`Event ${e.seq} does not follow from the one before it.`)
    // Else somebody could take the server's time out of the hash of a later event.
    if (e.form < form) return broken(`Event ${e.seq} is hashed in an older form than the one before it.`)
    if (eventHash(e, digest) !== e.hash)
      return broken(`Event ${e.seq} (${e.type}) was changed after it was recorded.`)
    previous = e.hash
    form = e.form
  }
  return { kind: 'whole', events: events.length, head: previous }
}

/** A document as a revision keeps it. */
interface KeptRevision {
  readonly number: number
  readonly document: unknown
}
export type RecordProof = ChainProof & { readonly revision?: number }

/**
 * Proves a loop's record with its documents: the chain, that it belongs to this loop, and that every revision is
 * the document whose hash the record holds, none missing and none that nobody recorded.
 * @param end - where the loop itself says that its record ends: what was cut off shows
 */
export function proveRecord(
  loopId: string,
  events: readonly ChainedEvent[],
  revisions: readonly KeptRevision[],
  digest: Digest,
  end?: { readonly seq: number; readonly hash: string },
): RecordProof {
  const proof = proveChain(events, digest)
  if (proof.kind === 'broken') return proof
  if (end && (end.seq !== proof.events || end.hash !== proof.head))
    return {
      kind: 'broken',
      seq: end.seq,
      eventId: events.at(-1)?.id ?? '',
      says: `The record ends at event ${proof.events}, but ${end.seq} were recorded.`,
    }
  const told = new Set<number>()
  for (const e of events) {
    const broken = (says: string, revision?: number): RecordProof => ({
      kind: 'broken',
      seq: e.seq,
      eventId: e.id,
      says,
      ...(revision === undefined ? {} : { revision }),
    })
    if (e.loopId !== loopId) return broken(`Event ${e.seq} belongs to another loop.`)
    if (e.type !== 'revision.saved') continue
    const { number, documentHash } = e.payload as { number: number; documentHash: string }
    if (told.has(number)) return broken(`Revision ${number} is recorded twice.`, number)
    told.add(number)
    const kept = revisions.filter((r) => r.number === number)
    const document = kept.length === 1 ? kept[0]?.document : undefined
    if (document === undefined || digest(canonicalJson(document)) !== documentHash)
      return broken(`Revision ${number} is not the document that was recorded.`, number)
  }
  const stranger = revisions.find((r) => !told.has(r.number))
  if (stranger)
    return {
      kind: 'broken',
      seq: events.at(-1)?.seq ?? 0,
      eventId: events.at(-1)?.id ?? '',
      says: `Revision ${stranger.number} stands in no event of the record.`,
      revision: stranger.number,
    }
  return proof
}
