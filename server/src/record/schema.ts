import type { SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { LoopSummary } from '@calm/core/loop/summary'
import type { Taken } from '@calm/core/signing/authors'
import type { LoopDrift, PastErrors } from '@calm/core/record/loop-drift'
import { isNull, sql } from 'drizzle-orm'
import {
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import type { KeptFold } from './fold.ts'

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
    assignee: text().notNull().default(''),
    type: text().notNull(),
    /** Of the demo plant: a stand-in stands on it, and nothing of it is real. */
    demo: boolean().notNull().default(false),
    revision: integer().notNull(),
    summary: jsonb().$type<Omit<LoopSummary, 'lastCalibrated'>>().notNull(),
    /** Drift over the closed verifications; null without any. */
    drift: jsonb().$type<LoopDrift>(),
    lastCalibrated: date({ mode: 'string' }),
    intervalMonths: integer(),
    /** The day since which it cannot wait for its interval; as the summary says why. */
    dueNow: date({ mode: 'string' }),
    due: date({ mode: 'string' }).generatedAlwaysAs(
      sql`least(due_now, (last_calibrated + make_interval(months => interval_months))::date)`,
    ),
    /** Out of use since; null while it is in use. */
    archivedAt: timestamp({ withTimezone: true, precision: 3 }),
    /** Position and hash of the newest event: the next one ties on to it. */
    lastSeq: integer().notNull().default(0),
    lastHash: text().notNull(),
    /** Packages that brought the record up to an event, folded from it: whose events are foreign. */
    taken: jsonb().$type<readonly Taken[]>().notNull().default([]),
  },
  (t) => [
    // A tag is free again once its loop is out of use.
    uniqueIndex('loops_tag_in_use')
      .on(sql`upper(${t.tag})`)
      .where(isNull(t.archivedAt)),
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
    /** Of a verification its class, of a procedure its result. */
    verdict: text(),
    /** When a procedure wrote into the device last and it was not put back. */
    adjustedAt: timestamp({ withTimezone: true, precision: 3 }),
    /** The run as folded from its events up to one of them: told anew where it is missing or of an older form. */
    folded: jsonb().$type<KeptFold>(),
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
    index('events_of_kind').on(t.loopId, t.type, t.seq),
    // The sites of a survey lie on several loops.
    index('events_of_survey')
      .on(sql`(${t.payload} #>> '{survey,id}')`)
      .where(sql`${t.type} = 'site.surveyed'`),
    check('events_hash_is_sha256', sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
  ],
)
