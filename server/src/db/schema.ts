import { jsonb, pgTable, text } from 'drizzle-orm/pg-core'

/** Secrets, rules and switches that every server on this database shares. */
export const settings = pgTable('settings', { key: text().primaryKey(), value: jsonb().notNull() })
