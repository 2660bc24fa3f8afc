import type { SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { LoopDrift } from '@calm/core/record/loop-drift'
import type { LoopSummary } from '@calm/core/loop/summary'
import type { Taken } from '@calm/core/record/authors'
import { sql } from 'drizzle-orm'
import {
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

/** One row a loop: what a list needs, and the head of its record. The document stands in its revisions. */
export const loops = pgTable(
  'loops',
  {
    id: uuid().primaryKey(),
    /** Order of entry: an exported list comes out as it came in. */
    position: integer().generatedAlwaysAsIdentity(),
    tag: text().notNull(),
    service: text().notNull(),
    area: text().notNull(),
    type: text().notNull(),
    revision: integer().notNull(),
    summary: jsonb().$type<Omit<LoopSummary, 'lastCalibrated'>>().notNull(),
    /** Drift over the closed verifications; null without any. */
    drift: jsonb().$type<LoopDrift>(),
    lastCalibrated: date({ mode: 'string' }),
    intervalMonths: integer(),
    due: date({ mode: 'string' }).generatedAlwaysAs(
      sql`(last_calibrated + make_interval(months => interval_months))::date`,
    ),
    /** Position and hash of the newest event: the next one ties on to it. */
    lastSeq: integer().notNull().default(0),
    lastHash: text().notNull(),
    /** Packages that brought the record up to an event, folded from it: whose events are foreign. */
    taken: jsonb().$type<readonly Taken[]>().notNull().default([]),
  },
  (t) => [
    uniqueIndex('loops_tag_whatever_case').on(sql`upper(${t.tag})`),
    index('loops_by_area').on(t.area, t.tag),
  ],
)

/** A revision is never changed; a correction is a new one. */
export const loopRevisions = pgTable(
  'loop_revisions',
  {
    loopId: uuid()
      .notNull()
      .references(() => loops.id),
    number: integer().notNull(),
    document: jsonb().$type<SavedLoopDocument>().notNull(),
    by: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    reason: text().notNull(),
  },
  (t) => [primaryKey({ name: 'loop_revisions_one_per_number', columns: [t.loopId, t.number] })],
)
