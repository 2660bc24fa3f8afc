import { jsonb, pgTable, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { StandIn } from '@calm/core/device/stand-in'
import { loops } from '../record/schema.ts'

/** Stand-in devices: what they are told, kept so that every server and every window sees the same one. */
export const standIns = pgTable('stand_ins', {
  loopId: uuid()
    .primaryKey()
    .references(() => loops.id),
  state: jsonb().$type<StandIn>().notNull(),
  /** Device clock zero, by the server's clock. */
  since: timestamp({ withTimezone: true, precision: 3 }).notNull(),
})
