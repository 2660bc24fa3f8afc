import type { StandIn } from '@calm/core/device/stand-in'
import type { LinkedReading } from '@calm/core/family/ph/linked-bench'
import type { SensorDescription } from '@calm/core/sensor/sensor'
import { boolean, integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'

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

/** Stand-ins of sensors of the demo plant, on the link of the workshop; a sensor without one is a real one. */
export const sensorStandIns = pgTable('sensor_stand_ins', {
  sensorId: uuid().primaryKey(),
  state: jsonb().$type<StandIn>().notNull(),
  /** Device clock zero, by the server's clock. */
  since: timestamp({ withTimezone: true, precision: 3 }).notNull(),
  /** What was taken in bottles since the last calibration was ended, and whether it is written into the sensor. */
  beakers: jsonb().$type<readonly LinkedReading[]>().notNull().default([]),
  written: boolean().notNull().default(false),
})
