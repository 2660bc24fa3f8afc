import { index, json, jsonb, pgTable, text, timestamp, varchar } from 'drizzle-orm/pg-core'

/** The session library's own table; its column names are given. */
export const sessions = pgTable(
  'sessions',
  {
    sid: varchar().primaryKey(),
    sess: json().notNull(),
    expire: timestamp({ precision: 6 }).notNull(),
  },
  (t) => [index('sessions_expire').on(t.expire)],
)

/** Secrets and switches that every server on this database shares. */
export const settings = pgTable('settings', { key: text().primaryKey(), value: jsonb().notNull() })
