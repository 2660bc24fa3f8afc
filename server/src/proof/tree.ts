import { headText } from '@calm/core/record/plant-log/head'
import { grown, leafHash, rootOfEdge, type Edge } from '@calm/core/record/plant-log/hash-tree'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { asc } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import type { SignedHead } from '@calm/contract/plant-log'
import { plantId } from '../plant-log/note.ts'
import { signedBy } from '../plant-log/plant-key.ts'
import { leaves, unsealed } from '../plant-log/schema.ts'
import { allHeads, plantKeys } from '../plant-log/sealer.ts'
import { digestBytes } from '../record/digest.ts'
import type { Mismatch } from './mismatch.ts'

/** What was recorded, loops and log together, by identifier: its hash and its name in words. */
export type Recorded = ReadonlyMap<string, { readonly hash: string; readonly name: string }>

/** Every recorded event is in the tree or waits for it, and the tree holds nothing else. */
async function provedLeaves(
  db: Executor,
  all: readonly (typeof leaves.$inferSelect)[],
  recorded: Recorded,
): Promise<Mismatch[]> {
  const out: Mismatch[] = []
  const sealed = new Set<string>()
  for (const [i, leaf] of all.entries()) {
    const where = `the tree, entry ${leaf.at + 1}`
    sealed.add(leaf.eventId)
    if (leaf.at !== i)
      return [...out, { where, field: null, says: `Entry ${i + 1} was taken out of the tree.` }]
    const event = recorded.get(leaf.eventId)
    if (!event) out.push({ where, field: null, says: 'What it stands for was taken out of the record.' })
    else if (event.hash !== leaf.hash)
      out.push({
        where: event.name,
        field: null,
        says: `It is not what was sealed as entry ${leaf.at + 1} of the tree.`,
      })
  }
  const waiting = new Set((await db.select({ id: unsealed.eventId }).from(unsealed)).map((w) => w.id))
  for (const [id, { name }] of recorded)
    if (!sealed.has(id) && !waiting.has(id))
      out.push({
        where: name,
        field: null,
        says: 'It was put in past the program: the tree does not hold it.',
      })
  return out
}

/** The roots of the tree at the sizes that heads tell of. */
function rootsAt(
  all: readonly (typeof leaves.$inferSelect)[],
  sizes: ReadonlySet<number>,
): ReadonlyMap<number, string> {
  const roots = new Map<number, string>()
  let edge: Edge = []
  for (const [i, leaf] of all.entries()) {
    edge = grown(edge, leafHash(fromHex(leaf.hash), digestBytes), digestBytes).edge
    if (sizes.has(i + 1)) roots.set(i + 1, toHex(rootOfEdge(edge, digestBytes)))
  }
  return roots
}

const nameOfHead = (h: SignedHead, given: boolean) =>
  `the head of ${h.at} with ${h.size} entries${given ? ', kept outside' : ''}`

/**
 * The tree over everything recorded: what it holds, and that it grew out of every head that was ever signed, here or
 * kept outside.
 * @param outside - heads that left the house earlier: what was rolled back or made anew shows by them alone
 */
export async function provedTree(
  db: Executor,
  recorded: Recorded,
  outside: readonly SignedHead[],
): Promise<{ readonly size: number; readonly mismatches: Mismatch[] }> {
  const all = await db.select().from(leaves).orderBy(asc(leaves.at))
  const heads = await allHeads(db)
  const told = [...heads.map((h) => ({ h, given: false })), ...outside.map((h) => ({ h, given: true }))]
  const mismatches = await provedLeaves(db, all, recorded)
  const roots = rootsAt(all, new Set(told.map(({ h }) => h.size)))
  const keys = await plantKeys(db)
  const plant = await plantId(db)
  for (const { h, given } of told) {
    const where = nameOfHead(h, given)
    const publicKey = keys.get(h.key)
    if (h.plant !== plant)
      mismatches.push({ where, field: 'plant', says: `It is of another plant: ${h.plant}.` })
    else if (publicKey === undefined)
      mismatches.push({
        where,
        field: 'key',
        says: 'It was signed by a key that no entry of the log tells of.',
      })
    else if (!signedBy(publicKey, headText(h), h.signature))
      mismatches.push({ where, field: 'signature', says: 'The plant’s key did not sign this.' })
    else if (h.size > all.length)
      mismatches.push({
        where,
        field: 'size',
        says: `The tree has ${all.length} entries only: what came later was cut off, or an older backup was restored.`,
      })
    else if (h.size > 0 && roots.get(h.size) !== h.root)
      mismatches.push({
        where,
        field: 'root',
        says: 'The tree did not grow out of it: something before it was changed, added, moved or made anew.',
      })
  }
  const newest = heads.at(-1)
  if (all.length > (newest?.size ?? 0))
    mismatches.push({
      where: `the tree, entry ${(newest?.size ?? 0) + 1}`,
      field: null,
      says: 'No signed head tells of it: heads were taken out, or it was put in past the program.',
    })
  return { size: all.length, mismatches }
}
