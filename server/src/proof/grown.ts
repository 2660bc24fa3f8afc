import type { Grown, SignedHead } from '@calm/contract/plant-log'
import { consistencyPath, grewOutOf, leafHash, rootOf } from '@calm/core/record/plant-log/hash-tree'
import { headText } from '@calm/core/record/plant-log/head'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { asc } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { plantId } from '../plant-log/note.ts'
import { signedBy } from '../plant-log/plant-key.ts'
import { leaves } from '../plant-log/schema.ts'
import { plantKeys } from '../plant-log/sealer.ts'
import { digestBytes } from '../record/digest.ts'

const not = (says: string): Grown => ({ grew: false, says, path: [] })

/** Whether the tree of now grew out of a head that somebody kept, with the proof of it. */
export async function grownOutOf(db: Executor, kept: SignedHead): Promise<Grown> {
  if (kept.plant !== (await plantId(db))) return not('This head is another plant’s.')
  const publicKey = (await plantKeys(db)).get(kept.key)
  if (publicKey === undefined) return not('It was signed by a key that no entry of the log tells of.')
  if (!signedBy(publicKey, headText(kept), kept.signature))
    return not('The plant’s key did not sign this head.')
  const rows = await db.select({ hash: leaves.hash }).from(leaves).orderBy(asc(leaves.at))
  if (kept.size > rows.length)
    return not(
      `The record has ${rows.length} entries now and had ${kept.size} then: what came later was cut off, or an older backup was restored.`,
    )
  if (kept.size === 0) return { grew: true, says: 'Every record grew out of an empty one.', path: [] }
  const all = rows.map((r) => leafHash(fromHex(r.hash), digestBytes))
  const path = consistencyPath(all, kept.size, digestBytes)
  const first = { size: kept.size, root: fromHex(kept.root) }
  const second = { size: all.length, root: rootOf(all, digestBytes) }
  return grewOutOf(first, second, path, digestBytes)
    ? {
        grew: true,
        says: `The record of now, ${all.length} entries, grew out of it: nothing before it was changed.`,
        path: path.map(toHex),
      }
    : not(
        'The record of now did not grow out of it: something before it was changed, added, moved or made anew.',
      )
}
