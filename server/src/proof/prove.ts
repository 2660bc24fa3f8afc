import type { PlantProof } from '@calm/contract/plant-log'
import { demoLoaded } from '@calm/core/record/plant-log/kinds/plant'
import { sayPlantEvent } from '@calm/core/record/plant-log/kinds/index'
import { asc } from 'drizzle-orm'
import type { Transactional } from '../db/connection.ts'
import { allKeys } from '../people/keys.ts'
import { allPeople } from '../people/store.ts'
import type { SignedHead } from '@calm/contract/plant-log'
import { allPlantEvents } from '../plant-log/read.ts'
import { leaves, unsealed } from '../plant-log/schema.ts'
import { isForeign } from '@calm/core/signing/authors'
import { takenIn } from '../record/authors.ts'
import { loops } from '../record/schema.ts'
import { provedLoop } from './loops.ts'
import type { Mismatch } from './mismatch.ts'
import { provedEntries, provedRows } from './rows.ts'
import { provedInstrumentPictures } from './instrument-pictures.ts'
import { provedTree } from './tree.ts'

/**
 * Proves the whole plant: every chain, every row that follows from an event, every signature against the keys as
 * they were then, and the tree over all against every head.
 * @param outside - heads that were kept elsewhere: what was rolled back shows by them alone
 * @param tell - told as it goes on
 */
export async function provePlant(
  db: Transactional,
  outside: readonly SignedHead[] = [],
  tell: (done: number, of: number) => void = () => undefined,
): Promise<PlantProof> {
  const log = await allPlantEvents(db)
  const mismatches: Mismatch[] = [
    ...provedEntries(log),
    ...(await provedRows(db, log)),
    ...(await provedInstrumentPictures(db, log)),
  ]
  const sealed = await db.select({ id: leaves.eventId }).from(leaves).orderBy(asc(leaves.at))
  const waiting = await db.select({ id: unsealed.eventId }).from(unsealed).orderBy(asc(unsealed.position))
  const register = {
    keys: await allKeys(db),
    order: new Map([...sealed, ...waiting].map((l, i) => [l.id, i])),
    instruments: log.filter((e) => e.row?.table === 'equipment'),
  }
  const demo = new Set(
    log.filter((e) => e.type === demoLoaded.type).flatMap((e) => demoLoaded.payload.parse(e.payload).loops),
  )
  const people = new Set((await allPeople(db)).map((p) => p.id))
  const recorded = new Map(
    log.map((e) => [
      e.id,
      { hash: e.hash, name: `the log, “${sayPlantEvent(e.type, e.payload).title}” of ${e.at}` },
    ]),
  )
  let events = 0
  let foreign = 0
  let signatures = 0
  const all = await db.select({ id: loops.id, tag: loops.tag }).from(loops).orderBy(asc(loops.position))
  for (const [i, { id, tag }] of all.entries()) {
    const proof = await provedLoop(db, id, demo.has(id), register)
    events += proof.events.length
    foreign += proof.foreign
    signatures += proof.signatures
    mismatches.push(...proof.mismatches)
    const taken = takenIn(proof.events)
    for (const e of proof.events) {
      recorded.set(e.id, { hash: e.hash, name: `${tag}, event ${e.seq}` })
      if (!people.has(e.by) && !isForeign(e.seq, e.by, taken))
        mismatches.push({
          where: `${tag}, event ${e.seq}`,
          field: 'by',
          says: 'Who did it is nobody of this plant, and no package brought it.',
        })
    }
    tell(i + 1, all.length)
  }
  const tree = await provedTree(db, recorded, outside)
  return {
    loops: all.length,
    events,
    entries: log.length,
    signatures,
    foreign,
    heads: outside.length,
    mismatches: [...mismatches, ...tree.mismatches],
  }
}
