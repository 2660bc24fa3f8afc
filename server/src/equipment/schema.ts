import { sql } from 'drizzle-orm'
import { boolean, check, date, pgTable, text, uuid } from 'drizzle-orm/pg-core'

export const equipment = pgTable(
  'equipment',
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    serial: text().notNull(),
    range: text().notNull(),
    uncertainty: text().notNull(),
    drift: text().notNull().default(''),
    resolution: text().notNull().default(''),
    certificate: text().notNull(),
    certifiedOn: date({ mode: 'string' }).notNull(),
    dueOn: date({ mode: 'string' }).notNull(),
    /** Came with a package: shown on its papers, never offered for work here. */
    foreign: boolean().notNull().default(false),
    /** Used for nothing any more. */
    retired: boolean().notNull().default(false),
  },
  (t) => [check('equipment_certificate_lasts', sql`${t.dueOn} > ${t.certifiedOn}`)],
)
