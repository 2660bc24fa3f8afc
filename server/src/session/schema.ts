import { sql } from 'drizzle-orm'
import { check, index, json, pgTable, text, timestamp, uuid, varchar } from 'drizzle-orm/pg-core'

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

/** Every try to sign in, right or wrong: what the limits count, on every server. */
export const signIns = pgTable(
  'sign_ins',
  {
    id: uuid().primaryKey().defaultRandom(),
    /** As typed, in small letters; nobody may have it. */
    name: text().notNull(),
    address: text().notNull(),
    at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    /** Taken before the password was looked at, then how it came out. */
    outcome: text().$type<'tried' | 'right' | 'wrong'>().notNull(),
  },
  (t) => [
    index('sign_ins_by_name').on(t.name, t.at),
    index('sign_ins_by_address').on(t.address, t.at),
    check('sign_ins_outcome_known', sql`${t.outcome} in ('tried', 'right', 'wrong')`),
  ],
)
