import type { PastErrors } from '@calm/core/record/loop-drift'
import { sql } from 'drizzle-orm'
import {
  check,
  index,
  integer,
  jsonb,
  pgTable,
  smallint,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core'
import { loops } from '../loops/schema.ts'

/** A run's place in lists; what it holds is told by its events alone. */
export const runs = pgTable(
  'runs',
  {
    id: uuid().primaryKey(),
    loopId: uuid()
      .notNull()
      .references(() => loops.id),
    kind: text().notNull().default('verification'),
    /** Which procedure; null for a verification. */
    procedure: text(),
    state: text().notNull(),
    verdict: text(),
    /** Errors by level once it is closed: what drift needs of it. */
    errors: jsonb().$type<PastErrors>(),
    revision: integer().notNull(),
    startedAt: timestamp({ withTimezone: true }).notNull(),
    /** Somebody here, or a foreign person of a package: the record tells which. */
    startedBy: uuid().notNull(),
  },
  (t) => [
    index('runs_of_loop').on(t.loopId, t.startedAt),
    check('runs_kind_is_known', sql`${t.kind} in ('verification', 'procedure')`),
  ],
)

/** What happened, append-only: evidence is never overwritten. */
export const events = pgTable(
  'events',
  {
    id: uuid().primaryKey(),
    loopId: uuid()
      .notNull()
      .references(() => loops.id),
    runId: uuid().references(() => runs.id),
    seq: integer().notNull(),
    type: text().notNull(),
    /** By the clock where it happened; the server's own is beside it, and inside the hash from form 2 on. */
    at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    recordedAt: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    form: smallint().$type<1 | 2>().notNull().default(1),
    /** Somebody here, or a foreign person of a package: the record tells which. */
    by: uuid().notNull(),
    payload: jsonb().notNull(),
    previous: text().notNull(),
    hash: text().notNull(),
  },
  (t) => [
    unique('events_one_per_place').on(t.loopId, t.seq),
    index('events_of_run').on(t.runId, t.seq),
    check('events_hash_is_sha256', sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
  ],
)
