import type { HeldRow } from '@calm/contract/loop-list'
import { integer, jsonb, pgTable, timestamp, uuid } from 'drizzle-orm/pg-core'
import { people } from '../people/schema.ts'

/** Imports that were done: a repeated send finds its own result. */
export const imports = pgTable('imports', {
  id: uuid().primaryKey(),
  by: uuid()
    .notNull()
    .references(() => people.id),
  at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  result: jsonb().notNull(),
})

/** Rows held back from an import until they are mended or let go. */
export const heldRows = pgTable('held_rows', {
  id: uuid().primaryKey().defaultRandom(),
  importId: uuid()
    .notNull()
    .references(() => imports.id),
  row: integer().notNull(),
  cells: jsonb().$type<HeldRow['cells']>().notNull(),
  findings: jsonb().$type<HeldRow['findings']>().notNull(),
})
