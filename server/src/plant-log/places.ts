import type { PlaceInTree } from '@calm/contract/plant-log'
import { partsBeside, leafHash, rootOfEdge, type Part } from '@calm/core/record/plant-log/hash-tree'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { inArray, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { digestBytes } from '../record/digest.ts'
import { leaves, treeNodes } from './schema.ts'

const nameOf = ({ level, at }: Part) => `${level}/${at}`

async function hashesOf(db: Executor, parts: readonly Part[]): Promise<ReadonlyMap<string, Uint8Array>> {
  const out = new Map<string, Uint8Array>()
  const low = parts.filter((p) => p.level === 0).map((p) => p.at)
  if (low.length > 0)
    for (const l of await db.select().from(leaves).where(inArray(leaves.at, low)))
      out.set(nameOf({ level: 0, at: l.at }), leafHash(fromHex(l.hash), digestBytes))
  for (const level of new Set(parts.map((p) => p.level)))
    if (level > 0) {
      const at = parts.filter((p) => p.level === level).map((p) => p.at)
      const rows = await db
        .select()
        .from(treeNodes)
        .where(sql`${treeNodes.level} = ${level} and ${inArray(treeNodes.at, at)}`)
      for (const r of rows) out.set(nameOf({ level, at: r.at }), fromHex(r.hash))
    }
  return out
}

/** Places of events in a tree of this size; those that are not in it are left out. */
export async function placesOf(
  db: Executor,
  eventIds: readonly string[],
  size: number,
): Promise<PlaceInTree[]> {
  if (eventIds.length === 0) return []
  const here = await db
    .select()
    .from(leaves)
    .where(sql`${inArray(leaves.eventId, [...eventIds])} and ${leaves.at} < ${size}`)
  const ways = here.map((l) => ({ event: l.eventId, at: l.at, beside: partsBeside(l.at, size) }))
  const parts = new Map(ways.flatMap((w) => w.beside.flat().map((p) => [nameOf(p), p])))
  const hashes = await hashesOf(db, [...parts.values()])
  return ways
    .sort((a, b) => a.at - b.at)
    .map(({ event, at, beside }) => ({
      event,
      at,
      path: beside.map((some) =>
        toHex(
          rootOfEdge(
            some.map((p) => {
              const hash = hashes.get(nameOf(p))
              if (!hash) throw new Error(`the tree has no part ${nameOf(p)}`)
              return { size: 2 ** p.level, hash }
            }),
            digestBytes,
          ),
        ),
      ),
    }))
}
