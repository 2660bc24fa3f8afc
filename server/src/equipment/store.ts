import type { NewEquipment } from '@calm/contract/equipment'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { readEquipment, type EquipmentFunction } from '@calm/core/verify/equipment-spec'
import { certificateRenewed, instrumentAdded } from '@calm/core/record/plant-log/kinds/instruments'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { equipment } from './schema.ts'

/** What stands on an instrument and its certificate, without where the row came from. */
export const particulars = (row: typeof equipment.$inferSelect): NewEquipment => ({
  id: row.id,
  name: row.name,
  serial: row.serial,
  range: row.range,
  uncertainty: row.uncertainty,
  drift: row.drift,
  resolution: row.resolution,
  certificate: row.certificate,
  certifiedOn: row.certifiedOn,
  dueOn: row.dueOn,
})

/** The plant's own instruments; those that came with a package are no choice here. */
export const allEquipment = (db: Executor) =>
  db.select().from(equipment).where(eq(equipment.foreign, false)).orderBy(asc(equipment.name))

/** In the order of the register's list, so that of two that suit the same one is taken everywhere. */
export const equipmentByIds = (db: Executor, ids: readonly string[]) =>
  ids.length === 0
    ? Promise.resolve([])
    : db
        .select()
        .from(equipment)
        .where(inArray(equipment.id, [...ids]))
        .orderBy(asc(equipment.name))

/** Instruments with what their certificates say they can do. */
export async function instrumentsByIds(db: Executor, ids: readonly string[]) {
  return (await equipmentByIds(db, ids)).map((e) => {
    const read = readEquipment(e)
    const functions: readonly EquipmentFunction[] = read.kind === 'read' ? read.functions : []
    return { ...e, functions }
  })
}

/** Sending the same instrument twice stores it once; another one under its identifier is refused. */
export async function addEquipment(
  db: Executor,
  e: NewEquipment,
  by: string | null,
  now: Date,
  foreign = false,
): Promise<void> {
  const stored = await db
    .insert(equipment)
    .values({ ...e, foreign })
    .onConflictDoNothing()
    .returning({ id: equipment.id })
  if (stored.length > 0) {
    const { name, serial } = e
    const row = { table: 'equipment', key: e.id } as const
    await note(db, { kind: instrumentAdded, payload: { name, serial, foreign }, by, subject: e.id, row }, now)
    return tellWindows(db, { what: 'equipment' })
  }
  const [here] = await equipmentByIds(db, [e.id])
  if (!here || canonicalJson(particulars(here)) !== canonicalJson(e))
    throw conflict(
      `Another instrument has this identifier: ${here?.name ?? ''}, serial ${here?.serial ?? ''}.`,
    )
}

/** A new certificate takes the place of the one before. */
export async function renewed(
  db: Executor,
  id: string,
  certifiedOn: string,
  by: string | null,
  now: Date,
): Promise<void> {
  await db.update(equipment).set({ certifiedOn }).where(eq(equipment.id, id))
  const [e] = await equipmentByIds(db, [id])
  if (!e) throw notFound('instrument')
  const { name, serial, certificate, dueOn } = e
  const row = { table: 'equipment', key: id } as const
  const payload = { name, serial, certificate, certifiedOn, dueOn }
  await note(db, { kind: certificateRenewed, payload, by, subject: id, row }, now)
  await tellWindows(db, { what: 'equipment' })
}
