import type { ChangeEquipment, NewEquipment } from '@calm/contract/equipment'
import { canonicalJson } from '@calm/core/record/canonical-json'
import {
  certificateRenewed,
  instrumentAdded,
  instrumentChanged,
  instrumentRetired,
} from '@calm/core/record/plant-log/kinds/instruments'
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

const WORDS = [
  'name',
  'serial',
  'range',
  'uncertainty',
  'drift',
  'resolution',
  'certificate',
  'certifiedOn',
  'dueOn',
] as const
const RENEWS: readonly string[] = ['certificate', 'certifiedOn', 'dueOn']

/** @throws HttpProblem 404 for none, 409 for one of a package */
export async function held(tx: Executor, id: string): Promise<typeof equipment.$inferSelect> {
  const [row] = await tx.select().from(equipment).where(eq(equipment.id, id)).for('update')
  if (!row) throw notFound('instrument')
  if (row.foreign) throw conflict(`${row.name} came with a package: it stays as that told it.`)
  return row
}

/**
 * A new certificate, or what was wrong about an instrument. What stood there before is kept in the log, and speaks for
 * the work that was done under it.
 */
export async function changeEquipment(
  tx: Executor,
  id: string,
  { reason, ...words }: ChangeEquipment,
  by: string | null,
  now: Date,
): Promise<void> {
  const row = await held(tx, id)
  const changed = WORDS.filter((w) => row[w] !== words[w])
  if (changed.length === 0) return
  await tx.update(equipment).set(words).where(eq(equipment.id, id))
  const { name, serial, certificate, certifiedOn, dueOn } = words
  const about = { by, subject: id, reason, row: { table: 'equipment', key: id } } as const
  if (changed.some((w) => RENEWS.includes(w)))
    await note(
      tx,
      { kind: certificateRenewed, payload: { name, serial, certificate, certifiedOn, dueOn }, ...about },
      now,
    )
  else await note(tx, { kind: instrumentChanged, payload: { name, serial }, ...about }, now)
  await tellWindows(tx, { what: 'equipment' })
}

/** Takes an instrument out of use, or back in. What it measured stays, with its certificates. */
export async function retireEquipment(
  tx: Executor,
  id: string,
  retired: boolean,
  reason: string,
  by: string,
  now: Date,
): Promise<void> {
  const row = await held(tx, id)
  if (row.retired === retired) return
  await tx.update(equipment).set({ retired }).where(eq(equipment.id, id))
  const { name, serial } = row
  await note(
    tx,
    {
      kind: instrumentRetired,
      payload: { name, serial, retired },
      by,
      subject: id,
      reason,
      row: { table: 'equipment', key: id },
    },
    now,
  )
  await tellWindows(tx, { what: 'equipment' })
}
