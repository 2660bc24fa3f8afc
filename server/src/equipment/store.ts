import type { NewEquipment } from '@calm/contract/equipment'
import { asc, inArray } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { equipment } from './schema.ts'

export const allEquipment = (db: Executor) => db.select().from(equipment).orderBy(asc(equipment.name))

export const equipmentByIds = (db: Executor, ids: readonly string[]) =>
  ids.length === 0
    ? Promise.resolve([])
    : db
        .select()
        .from(equipment)
        .where(inArray(equipment.id, [...ids]))

/** Sending the same instrument twice stores it once. */
export async function addEquipment(db: Executor, e: NewEquipment): Promise<void> {
  await db.insert(equipment).values(e).onConflictDoNothing()
}
