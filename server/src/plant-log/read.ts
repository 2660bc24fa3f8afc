import type { PlantEvent } from '@calm/core/record/plant-log/plant-event'
import { asc } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { plantEvents } from './schema.ts'

/** The whole record outside the loops in its order. */
export async function allPlantEvents(db: Executor): Promise<PlantEvent[]> {
  const rows = await db.select().from(plantEvents).orderBy(asc(plantEvents.position))
  return rows.map(({ id, type, at, by, subject, reason, payload, row, hash }) => ({
    id,
    type,
    at: isoInstant(at),
    by,
    subject,
    reason,
    payload,
    row,
    hash,
  }))
}
