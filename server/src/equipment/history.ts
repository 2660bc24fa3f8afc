import { NewEquipment, type EquipmentPast } from '@calm/contract/equipment'
import { certificateFor, uncoveredDay } from '@calm/core/verify/certificate-for'
import { readEquipment, type EquipmentFunction } from '@calm/core/verify/equipment-spec'
import { and, asc, inArray, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { plantEvents } from '../plant-log/schema.ts'

/** Everything the register ever had of an instrument, the oldest first: as the log of the plant keeps it. */
export type PastInstrument = NewEquipment

/** An instrument out of an entry of the log; null where the entry is of something else. */
export function instrumentOf(
  row: { readonly table: string; readonly key: string; readonly is: unknown } | null,
) {
  if (row?.table !== 'equipment') return null
  // What it is marked as here is nothing that stands on it.
  const words = Object.entries(row.is as object).filter(([name]) => name !== 'foreign' && name !== 'retired')
  return NewEquipment.safeParse({ id: row.key, ...Object.fromEntries(words) }).data ?? null
}

const entriesOf = (db: Executor, ids: readonly string[]) =>
  db
    .select()
    .from(plantEvents)
    .where(and(inArray(plantEvents.subject, [...ids]), sql`${plantEvents.row} ->> 'table' = 'equipment'`))
    .orderBy(asc(plantEvents.position))

async function historyOf(
  db: Executor,
  ids: readonly string[],
): Promise<ReadonlyMap<string, readonly PastInstrument[]>> {
  const out = new Map<string, PastInstrument[]>()
  if (ids.length === 0) return out
  for (const e of await entriesOf(db, ids)) {
    const told = instrumentOf(e.row)
    if (told) out.set(told.id, [...(out.get(told.id) ?? []), told])
  }
  return out
}

/**
 * Instruments as they were certified for work of one day, by name: a certificate that was renewed since does not
 * speak for what was read before.
 * @param day - YYYY-MM-DD
 */
export async function instrumentsOn(
  db: Executor,
  ids: readonly string[],
  day: string,
): Promise<PastInstrument[]> {
  const history = await historyOf(db, ids)
  return [...new Set(ids)]
    .flatMap((id) => certificateFor(history.get(id) ?? [], day) ?? [])
    .sort((a, b) => (a.name < b.name ? -1 : 1))
}

/** The same with what their certificates say they can do. */
export async function ableInstrumentsOn(db: Executor, ids: readonly string[], day: string) {
  return (await instrumentsOn(db, ids, day)).map((e) => {
    const read = readEquipment(e)
    const functions: readonly EquipmentFunction[] = read.kind === 'read' ? read.functions : []
    return { ...e, functions }
  })
}

/** Of each instrument the first of some days that no certificate of it ever covered, with the newest certificate. */
export async function uncoveredOn(db: Executor, ids: readonly string[], days: readonly string[]) {
  const history = await historyOf(db, ids)
  return [...new Set(ids)].flatMap((id) => {
    const all = history.get(id) ?? []
    const day = uncoveredDay(all, days)
    const newest = all.at(-1)
    return day === null || !newest ? [] : [{ instrument: newest, day }]
  })
}

/** What the register had of one instrument, the newest first, with who entered it, when and why. */
export async function pastOf(
  db: Executor,
  id: string,
  nameOf: (by: string | null) => string,
): Promise<EquipmentPast[]> {
  const entries = await entriesOf(db, [id])
  return entries
    .flatMap((e) => {
      const told = instrumentOf(e.row)
      if (!told) return []
      return [{ ...told, at: isoInstant(e.at), byName: nameOf(e.by), reason: e.reason }]
    })
    .reverse()
}
