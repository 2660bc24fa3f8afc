import { randomUUID } from 'node:crypto'
import type { PlantKind } from '@calm/core/record/plant-log/kinds/plant-kind'
import { plantEventHash, type KeptRow, type PlantEvent } from '@calm/core/record/plant-log/plant-event'
import { demoLoaded, plantBegun, rowFound } from '@calm/core/record/plant-log/kinds/plant'
import { eq, sql } from 'drizzle-orm'
import type { z } from 'zod'
import type { Executor, Transactional } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { sha256 } from '../record/digest.ts'
import { settings } from '../db/schema.ts'
import { keptRow, keptRows, type KeptTableName } from './rows.ts'
import { plantEvents } from './schema.ts'

/** A change outside the loops, as whoever makes it tells it. */
export interface Noted<K extends PlantKind> {
  readonly kind: K
  readonly payload: z.output<K['payload']>
  /** Who did it; null: nobody was signed in, or the program did it. */
  readonly by: string | null
  readonly subject?: string
  readonly reason?: string
  /** The row that it made or changed: the record holds it as it is now. */
  readonly row?: { readonly table: KeptTableName; readonly key: string }
}

async function store(tx: Executor, e: Omit<PlantEvent, 'hash'>): Promise<void> {
  await tx.insert(plantEvents).values({ ...e, at: new Date(e.at), hash: plantEventHash(e, sha256) })
}

/**
 * Writes a change outside the loops into the plant's record, in the transaction of the change: one never stands
 * without the other.
 * @throws Error for contents that its kind does not hold: a fault of ours
 */
export async function note<K extends PlantKind>(tx: Executor, n: Noted<K>, at: Date): Promise<void> {
  let row: KeptRow | null = null
  if (n.row) {
    const told = await keptRow(tx, n.row.table, n.row.key)
    if (!told) throw new Error(`${n.kind.type}: no row ${n.row.key} in ${n.row.table}`)
    row = { table: told.table, key: told.key, is: told.is }
  }
  await store(tx, {
    id: randomUUID(),
    type: n.kind.type,
    at: isoInstant(at),
    by: n.by,
    subject: n.subject ?? null,
    reason: n.reason ?? '',
    payload: n.kind.payload.parse(n.payload),
    row,
  })
}

const PLANT = 'plant'

/** Which plant this database holds. @throws Error where its record has not begun */
export async function plantId(db: Executor): Promise<string> {
  const [row] = await db.select().from(settings).where(eq(settings.key, PLANT))
  if (typeof row?.value !== 'string') throw new Error('the record of the plant has not begun')
  return row.value
}

/**
 * Begins the plant's record, once: gives the plant its identifier, and writes down what stood here before, so that
 * a later change of it shows. A plant whose record has begun is left as it is.
 */
export async function beginPlantLog(db: Transactional, now: Date): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm plant begins'))`)
    const [begun] = await tx.select().from(settings).where(eq(settings.key, PLANT))
    if (begun) return
    const plant = randomUUID()
    const found = await keptRows(tx)
    await tx.insert(settings).values({ key: PLANT, value: plant })
    await note(
      tx,
      { kind: plantBegun, payload: { plant }, by: null, row: { table: 'settings', key: PLANT } },
      now,
    )
    for (const { table, key, name, is } of found)
      await store(tx, {
        id: randomUUID(),
        type: rowFound.type,
        at: isoInstant(now),
        by: null,
        subject: key,
        reason: '',
        payload: rowFound.payload.parse({ what: name }),
        row: { table, key, is },
      })
    // Which loops are invented was told by their rows alone.
    const { rows: demo } = await tx.execute<{ id: string }>(
      sql`select id from loops where demo order by position`,
    )
    if (demo.length > 0)
      await note(tx, { kind: demoLoaded, payload: { loops: demo.map((l) => l.id) }, by: null }, now)
  })
}
