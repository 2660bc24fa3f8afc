import { CHAIN_START, eventHash, type ChainedEvent } from '@calm/core/record/hash-chain'
import { grown, leafHash, rootOfEdge, type Edge } from '@calm/core/record/plant-log/hash-tree'
import { headText } from '@calm/core/record/plant-log/head'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { plantEventHash } from '@calm/core/record/plant-log/plant-event'
import type { SignedHead } from '@calm/contract/plant-log'
import { asc, eq, sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/node-postgres'
import type pg from 'pg'
import { CASING, type Transactional } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { plantId } from '../plant-log/note.ts'
import type { PlantKey } from '../plant-log/plant-key.ts'
import { allPlantEvents } from '../plant-log/read.ts'
import { leaves, plantEvents, treeHeads, treeNodes } from '../plant-log/schema.ts'
import { provePlant } from '../proof/prove.ts'
import { digestBytes, sha256 } from '../record/digest.ts'
import { eventsOfLoop } from '../record/events.ts'
import { events, loops } from '../record/schema.ts'

/**
 * What the proof says after somebody with the database in hand did something; it is undone again.
 * @param client - of the database's owner
 */
export async function foundAfter(
  client: pg.Client,
  cheat: (db: Transactional) => Promise<unknown>,
  heads: readonly SignedHead[] = [],
): Promise<string[]> {
  const db = drizzle(client, CASING)
  class Undo extends Error {}
  let says: string[] = []
  await db
    .transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`)
      await cheat(tx)
      await tx.execute(sql`set local session_replication_role = origin`)
      const { mismatches } = await provePlant(tx, heads)
      says = mismatches.map((m) => `${m.where}${m.field === null ? '' : `, ${m.field}`}: ${m.says}`)
      throw new Undo()
    })
    .catch((error: unknown) => {
      if (!(error instanceof Undo)) throw error
    })
  return says
}

/** As somebody does it who has the database and knows every rule: a loop's chain made anew over what stands there now. */
export async function rehash(db: Transactional, loopId: string): Promise<void> {
  let previous = CHAIN_START
  let seq = 0
  for (const e of await eventsOfLoop(db, loopId)) {
    seq++
    const told: Omit<ChainedEvent, 'hash'> = { ...e, seq, previous }
    const hash = eventHash(told, sha256)
    await db.update(events).set({ seq, previous, hash }).where(eq(events.id, e.id))
    await db.update(leaves).set({ hash }).where(eq(leaves.eventId, e.id))
    previous = hash
  }
  await db.update(loops).set({ lastSeq: seq, lastHash: previous }).where(eq(loops.id, loopId))
}

/** Entries of the log hashed anew, leaves with them. */
export async function rehashLog(db: Transactional): Promise<void> {
  for (const e of await allPlantEvents(db)) {
    const hash = plantEventHash(e, sha256)
    if (hash === e.hash) continue
    await db.update(plantEvents).set({ hash }).where(eq(plantEvents.id, e.id))
    await db.update(leaves).set({ hash }).where(eq(leaves.eventId, e.id))
  }
}

/** The tree made anew over the leaves that are there, with one head by whoever has a key. */
export async function rebuildTree(db: Transactional, key: PlantKey): Promise<void> {
  const plant = await plantId(db)
  await db.delete(treeNodes)
  await db.delete(treeHeads)
  let edge: Edge = []
  let size = 0
  const all = await db.select().from(leaves).orderBy(asc(leaves.at))
  const nodes = []
  for (const leaf of all) {
    const next = grown(edge, leafHash(fromHex(leaf.hash), digestBytes), digestBytes)
    edge = next.edge
    size++
    for (const part of next.made)
      nodes.push({ level: Math.log2(part.size), at: size / part.size - 1, hash: toHex(part.hash) })
  }
  for (let i = 0; i < nodes.length; i += 1000) await db.insert(treeNodes).values(nodes.slice(i, i + 1000))
  const at = new Date('2026-11-27T13:00:00.000Z')
  const root = toHex(rootOfEdge(edge, digestBytes))
  const signature = key.sign(headText({ v: 1, plant, size, root, at: isoInstant(at) }))
  await db.insert(treeHeads).values({ size, root, at, key: key.fingerprint, signature })
}
