import type { Log, Mapping, WrongLine } from '@calm/contract/logs'
import type { ReadState } from '@calm/core/logs/sniff/read-rows'
import {
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core'
import type { z } from 'zod'
import { people } from '../people/schema.ts'
import { loops } from '../record/schema.ts'

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' })
const instant = () => timestamp({ withTimezone: true, precision: 3 })

/** A column of a log that has numbers, as far as it is read in. */
export interface StoredChannel {
  readonly name: string
  readonly unit: string | null
  readonly kind: 'value' | 'quality'
  readonly n: number
  readonly min: number | null
  readonly max: number | null
}

/** Measured logs: what they are and how far they are read in. Their samples stand in blocks. */
export const logs = pgTable(
  'logs',
  {
    id: uuid().primaryKey(),
    loopId: uuid()
      .notNull()
      .references(() => loops.id, { onDelete: 'cascade' }),
    title: text().notNull(),
    of: text().$type<'installed' | 'reference'>().notNull(),
    source: text().$type<Log['source']>().notNull().default('file'),
    instrument: uuid(),
    site: text().notNull(),
    files: jsonb().$type<readonly string[]>().notNull(),
    mapping: jsonb().$type<Mapping>().notNull(),
    simulated: boolean().notNull(),
    state: text().$type<'open' | 'kept'>().notNull(),
    channels: jsonb().$type<readonly StoredChannel[]>().notNull(),
    rows: integer().notNull().default(0),
    wrongCount: integer().notNull().default(0),
    wrong: jsonb().$type<readonly z.output<typeof WrongLine>[]>().notNull().default([]),
    pieces: integer().notNull().default(0),
    blocks: integer().notNull().default(0),
    /** Lines of the file that is being read. */
    line: integer().notNull().default(0),
    /** What the times of the next lines depend on. */
    reader: jsonb().$type<ReadState>().notNull(),
    fromMs: doublePrecision(),
    toMs: doublePrecision(),
    interval: doublePrecision().notNull().default(0),
    gapAbove: doublePrecision().notNull().default(0),
    by: uuid()
      .notNull()
      .references(() => people.id),
    at: instant().notNull(),
  },
  (t) => [index('logs_by_loop').on(t.loopId, t.at)],
)

/** Pieces that came in: the same one again changes nothing. */
export const logPieces = pgTable(
  'log_pieces',
  {
    logId: uuid()
      .notNull()
      .references(() => logs.id, { onDelete: 'cascade' }),
    piece: integer().notNull(),
    sha256: text().notNull(),
  },
  (t) => [primaryKey({ name: 'log_pieces_one_per_place', columns: [t.logId, t.piece] })],
)

/** Rows of a channel, some thousand at a time: the samples, and for each 64 of them what is needed to draw them. */
export const logBlocks = pgTable(
  'log_blocks',
  {
    logId: uuid()
      .notNull()
      .references(() => logs.id, { onDelete: 'cascade' }),
    channel: smallint().notNull(),
    block: integer().notNull(),
    rows: integer().notNull(),
    fromMs: doublePrecision().notNull(),
    toMs: doublePrecision().notNull(),
    chunks: bytes().notNull(),
    samples: bytes().notNull(),
  },
  (t) => [primaryKey({ name: 'log_blocks_one_per_place', columns: [t.logId, t.channel, t.block] })],
)
