import type { SensorDescription } from '@calm/core/sensor/sensor'
import { integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'

/** Every description that a sensor ever had: the newest counts, none is overwritten. */
export const sensorRevisions = pgTable(
  'sensor_revisions',
  {
    sensorId: uuid().notNull(),
    revision: integer().notNull(),
    description: jsonb().$type<SensorDescription>().notNull(),
    at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    by: uuid().notNull(),
    reason: text().notNull(),
  },
  (t) => [primaryKey({ name: 'sensor_revisions_one_per_number', columns: [t.sensorId, t.revision] })],
)
