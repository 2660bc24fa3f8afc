import type { KeptRow } from '@calm/core/record/plant-log/plant-event'
import { sql } from 'drizzle-orm'
import {
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

/** Every change outside the loops, append-only. */
export const plantEvents = pgTable(
  'plant_events',
  {
    id: uuid().primaryKey(),
    position: integer().generatedAlwaysAsIdentity(),
    type: text().notNull(),
    at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
    by: uuid(),
    subject: text(),
    reason: text().notNull(),
    payload: jsonb().notNull(),
    row: jsonb().$type<KeptRow>(),
    hash: text().notNull(),
  },
  (t) => [
    uniqueIndex('plant_events_by_position').on(t.position),
    index('plant_events_by_type').on(t.type, t.position),
    index('plant_events_by_subject').on(t.subject, t.position),
    check('plant_events_hash_is_sha256', sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
  ],
)

/** What was recorded and is not in the tree yet: a trigger puts every event here, the sealer takes it away. */
export const unsealed = pgTable('unsealed', {
  position: integer().generatedAlwaysAsIdentity().primaryKey(),
  eventId: uuid().notNull(),
  hash: text().notNull(),
})

/** Leaves of the plant's tree in their order: the hash of an event of a loop, or of the plant. */
export const leaves = pgTable(
  'leaves',
  { at: integer().primaryKey(), eventId: uuid().notNull(), hash: text().notNull() },
  (t) => [uniqueIndex('leaves_one_per_event').on(t.eventId)],
)

/** Whole parts of the tree: at a level, 2^level leaves each. What a proof needs without the leaves. */
export const treeNodes = pgTable(
  'tree_nodes',
  { level: smallint().notNull(), at: integer().notNull(), hash: text().notNull() },
  (t) => [primaryKey({ name: 'tree_nodes_one_per_place', columns: [t.level, t.at] })],
)

/** How far the record had come, signed by the plant's key. */
export const treeHeads = pgTable('tree_heads', {
  size: integer().primaryKey(),
  root: text().notNull(),
  at: timestamp({ withTimezone: true, precision: 3 }).notNull(),
  /** Fingerprint of the key that signed. */
  key: text().notNull(),
  signature: text().notNull(),
})
