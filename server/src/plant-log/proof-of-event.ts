import type { ProofOfEvent } from '@calm/contract/plant-log'
import type { Executor } from '../db/connection.ts'
import { placesOf } from './places.ts'
import { newestHead, plantKeys } from './sealer.ts'

/** That an event stands in the plant's record, by the newest head; null where it waits to be sealed still. */
export async function proofOfEvent(db: Executor, eventId: string): Promise<ProofOfEvent | null> {
  const head = await newestHead(db)
  if (!head) return null
  const publicKey = (await plantKeys(db)).get(head.key)
  const [place] = await placesOf(db, [eventId], head.size)
  return place && publicKey !== undefined ? { ...place, head, publicKey } : null
}
