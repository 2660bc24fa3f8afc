import { sql } from 'drizzle-orm'
import { check, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'

export const people = pgTable(
  'people',
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    shownName: text().notNull(),
    role: text().notNull(),
    passwordHash: text().notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex('people_name_whatever_case').on(sql`lower(${t.name})`),
    check('people_role_known', sql`${t.role} in ('technician', 'reviewer', 'viewer')`),
  ],
)
