import type { DayEntryKind } from '@calm/core/today/entries'
import { check, date, index, integer, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import { people } from '../people/schema.ts'

/** What was planned, agreed, marked and noted, day by day: only ever added to, the newest of a subject counts. */
export const dayEntries = pgTable(
  'day_entries',
  {
    id: uuid().primaryKey(),
    position: integer().generatedAlwaysAsIdentity(),
    kind: text().$type<DayEntryKind>().notNull(),
    day: date({ mode: 'string' }),
    /** Which job, person or thing it is of; empty where it is of the day. */
    subject: text().notNull(),
    payload: jsonb().notNull(),
    by: uuid()
      .notNull()
      .references(() => people.id),
    at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
  },
  (t) => [
    index('day_entries_newest').on(t.kind, t.subject, t.day, t.position),
    check(
      'day_entries_kind_known',
      sql`${t.kind} in ('job', 'wish', 'presence', 'mark', 'packed', 'note', 'plan')`,
    ),
  ],
)
