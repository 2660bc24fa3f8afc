import { headText, type TreeHead } from '@calm/core/record/plant-log/head'
import { grown, leafHash, rootOfEdge, type Edge } from '@calm/core/record/plant-log/hash-tree'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { plantKeyBegun } from '@calm/core/record/plant-log/kinds/plant'
import { and, asc, desc, eq, inArray, max, or, sql } from 'drizzle-orm'
import type { Logger } from 'pino'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { digestBytes } from '../record/digest.ts'
import type { SignedHead } from '@calm/contract/plant-log'
import { again } from '../work/again.ts'
import { keepHead } from './heads-file.ts'
import { note, plantId } from './note.ts'
import type { PlantKey } from './plant-key.ts'
import { leaves, plantEvents, treeHeads, treeNodes, unsealed } from './schema.ts'

const EVERY_MS = 1_000
/** Leaves at once: a large import is sealed in pieces. */
const AT_ONCE = 2_000
/** One sealer at a time, on whichever server. */
const LOCK = 7413
const HEAD_FILE_EVERY_MS = 86_400_000

/** The whole parts that a tree of this size is made of, the largest first. */
function partsOf(size: number): { readonly level: number; readonly at: number }[] {
  const parts = []
  let from = 0
  for (let level = 30; level >= 0; level--) {
    const part = 2 ** level
    if (from + part > size) continue
    parts.push({ level, at: from / part })
    from += part
  }
  return parts
}

/** Roots of the whole parts of a tree of this size, out of what is stored. */
export async function edgeOf(db: Executor, size: number): Promise<Edge> {
  const parts = partsOf(size)
  const whole = parts.filter((p) => p.level > 0)
  const nodes =
    whole.length === 0
      ? []
      : await db
          .select({ level: treeNodes.level, at: treeNodes.at, hash: treeNodes.hash })
          .from(treeNodes)
          .where(or(...whole.map((p) => and(eq(treeNodes.level, p.level), eq(treeNodes.at, p.at)))))
  const last = parts.find((p) => p.level === 0)
  const [leaf] = last ? await db.select({ hash: leaves.hash }).from(leaves).where(eq(leaves.at, last.at)) : []
  return parts.map(({ level, at }) => {
    const row = level === 0 ? leaf : nodes.find((n) => n.level === level && n.at === at)
    if (!row) throw new Error(`the tree of ${size} has no part ${level}/${at}`)
    const hash = fromHex(row.hash)
    return { size: 2 ** level, hash: level === 0 ? leafHash(hash, digestBytes) : hash }
  })
}

const asHead = (plant: string, h: typeof treeHeads.$inferSelect): SignedHead => ({
  v: 1,
  plant,
  size: h.size,
  root: h.root,
  at: isoInstant(h.at),
  key: h.key,
  signature: h.signature,
})

/** The newest head; null before the first. */
export async function newestHead(db: Executor): Promise<SignedHead | null> {
  const [row] = await db.select().from(treeHeads).orderBy(desc(treeHeads.size)).limit(1)
  return row ? asHead(await plantId(db), row) : null
}

/** Every stored head, the oldest first. */
export async function allHeads(db: Executor): Promise<SignedHead[]> {
  const plant = await plantId(db)
  return (await db.select().from(treeHeads).orderBy(asc(treeHeads.size))).map((h) => asHead(plant, h))
}

/** Public keys of the plant, by fingerprint, as its record tells them. */
export async function plantKeys(db: Executor): Promise<ReadonlyMap<string, string>> {
  const rows = await db.select().from(plantEvents).where(eq(plantEvents.type, plantKeyBegun.type))
  return new Map(
    rows.map((r) => {
      const { fingerprint, publicKey } = plantKeyBegun.payload.parse(r.payload)
      return [fingerprint, publicKey]
    }),
  )
}

/** A key that signs here is in the record before its first signature. */
async function tellKey(tx: Executor, key: PlantKey, now: Date): Promise<void> {
  if ((await plantKeys(tx)).has(key.fingerprint)) return
  const { fingerprint, publicKey } = key
  await note(
    tx,
    { kind: plantKeyBegun, payload: { fingerprint, publicKey }, by: null, subject: fingerprint },
    now,
  )
}

/**
 * Takes what was committed since the last seal into the tree and signs its head; nothing where another server is at
 * it or there is no news.
 * @returns the new head, or null
 */
export async function seal(db: Database, key: PlantKey, now: Date): Promise<SignedHead | null> {
  return db.transaction(async (tx) => {
    const { rows } = await tx.execute<{ mine: boolean }>(
      sql`select pg_try_advisory_xact_lock(${LOCK}) as mine`,
    )
    if (rows[0]?.mine !== true) return null
    const [waits] = await tx.select({ n: unsealed.position }).from(unsealed).limit(1)
    if (!waits) return null
    await tellKey(tx, key, now)
    const waiting = await tx.select().from(unsealed).orderBy(asc(unsealed.position)).limit(AT_ONCE)
    await tx.delete(unsealed).where(
      inArray(
        unsealed.position,
        waiting.map((w) => w.position),
      ),
    )
    // A restored plant brings its leaves along; its events do not wait a second time.
    const here = new Set(
      (
        await tx
          .select({ id: leaves.eventId })
          .from(leaves)
          .where(
            inArray(
              leaves.eventId,
              waiting.map((w) => w.eventId),
            ),
          )
      ).map((l) => l.id),
    )
    const news = waiting.filter((w) => !here.has(w.eventId))
    if (news.length === 0) return null
    // They are numbered without a gap: nobody counts a million of them every second.
    const [newest] = await tx.select({ at: max(leaves.at) }).from(leaves)
    let size = (newest?.at ?? -1) + 1
    let edge = await edgeOf(tx, size)
    const nodes: (typeof treeNodes.$inferInsert)[] = []
    await tx.insert(leaves).values(news.map((w, i) => ({ at: size + i, eventId: w.eventId, hash: w.hash })))
    for (const w of news) {
      const next = grown(edge, leafHash(fromHex(w.hash), digestBytes), digestBytes)
      edge = next.edge
      size++
      for (const part of next.made)
        nodes.push({ level: Math.log2(part.size), at: size / part.size - 1, hash: toHex(part.hash) })
    }
    if (nodes.length > 0) await tx.insert(treeNodes).values(nodes)
    const head: TreeHead = {
      v: 1,
      plant: await plantId(tx),
      size,
      root: toHex(rootOfEdge(edge, digestBytes)),
      at: isoInstant(now),
    }
    const signature = key.sign(headText(head))
    await tx.insert(treeHeads).values({ size, root: head.root, at: now, key: key.fingerprint, signature })
    return { ...head, key: key.fingerprint, signature }
  })
}

/**
 * Seals every second while there is news; a head goes into the file that only grows at least once a day.
 * @param tell - whoever else is told of heads
 */
export function startSealer(
  db: Database,
  key: PlantKey,
  headsFile: string | null,
  tell: (head: SignedHead) => Promise<void>,
  log: Pick<Logger, 'warn'>,
): () => Promise<void> {
  let kept = 0
  const once = async () => {
    try {
      for (;;) {
        const head = await seal(db, key, new Date())
        if (!head) return
        await tell(head)
        if (headsFile !== null && Date.now() - kept > HEAD_FILE_EVERY_MS) {
          keepHead(headsFile, head)
          kept = Date.now()
        }
      }
    } catch (error) {
      log.warn({ err: error instanceof Error ? error.message : 'unknown' }, 'not sealed')
    }
  }
  const stop = again(EVERY_MS, once)
  return async () => {
    await stop()
    const head = headsFile === null ? null : await newestHead(db).catch(() => null)
    if (head && headsFile !== null) keepHead(headsFile, head)
  }
}
