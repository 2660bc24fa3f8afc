import type { AreaRole } from '@calm/core/signing/roles'
import { sql } from 'drizzle-orm'
import {
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

export const people = pgTable(
  'people',
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    shownName: text().notNull(),
    role: text().notNull(),
    /** Nobody is ever deleted: their names stand on records. */
    state: text().$type<'invited' | 'active' | 'locked' | 'left'>().notNull().default('active'),
    /** Where this person works; looks on elsewhere. Empty: everywhere. */
    areas: jsonb().$type<readonly string[]>().notNull().default([]),
    /** Areas in which the role is another one; null: none. */
    areaRoles: jsonb().$type<Readonly<Record<string, AreaRole>>>(),
    /** Last day on which this person may sign in. */
    until: date({ mode: 'string' }),
    /** Of the demo plant: may not sign in anywhere else. */
    demo: boolean().notNull().default(false),
    /** Null while an invitation or a new password is waited for, and for who signs in elsewhere. */
    passwordHash: text(),
    /** Who this is at the plant's own sign-in: its address and its identifier there; null: signs in here. */
    provider: text(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex('people_name_whatever_case').on(sql`lower(${t.name})`),
    uniqueIndex('people_one_each_at_the_provider').on(t.provider),
    check(
      'people_role_known',
      sql`${t.role} in ('administrator', 'technician', 'reviewer', 'planner', 'viewer')`,
    ),
    check('people_state_known', sql`${t.state} in ('invited', 'active', 'locked', 'left')`),
  ],
)

/** Links by which somebody sets a password: the link itself is kept nowhere. */
export const invitations = pgTable('invitations', {
  tokenHash: text().primaryKey(),
  personId: uuid()
    .notNull()
    .references(() => people.id),
  until: timestamp({ withTimezone: true, precision: 3 }).notNull(),
  usedAt: timestamp({ withTimezone: true, precision: 3 }),
})

/** Second factors by time codes. */
export const secondFactors = pgTable('second_factors', {
  personId: uuid()
    .primaryKey()
    .references(() => people.id),
  /** Base32; whoever checks a code must have it. */
  secret: text().notNull(),
  /** Null once it was ended. */
  since: timestamp({ withTimezone: true, precision: 3 }),
  /** The time step of the code that was used last: none is good twice. */
  lastStep: integer().notNull().default(0),
  /** SHA-256 of the recovery codes that are left. */
  recovery: jsonb().$type<readonly string[]>().notNull().default([]),
})

/** Keys that people sign with. The private one is wrapped by a password that never comes here. */
export const personKeys = pgTable(
  'person_keys',
  {
    /** SHA-256 of the raw public key. */
    fingerprint: text().primaryKey(),
    personId: uuid()
      .notNull()
      .references(() => people.id),
    publicKey: text().notNull(),
    salt: text().notNull(),
    iv: text().notNull(),
    wrapped: text().notNull(),
    rounds: integer().notNull(),
    from: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    until: timestamp({ withTimezone: true, precision: 3 }),
    /** Why it ended. */
    ended: text(),
  },
  (t) => [index('person_keys_of_person').on(t.personId)],
)
