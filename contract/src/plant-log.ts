import { PLANT_GROUPS } from '@calm/core/record/plant-log/kinds/plant-kind'
import { z } from 'zod'

/** A change outside the loops as it is shown. */
export const LogEntry = z.object({
  id: z.uuid(),
  position: z.int(),
  at: z.string(),
  group: z.enum(PLANT_GROUPS).nullable(),
  type: z.string(),
  title: z.string(),
  says: z.string(),
  by: z.uuid().nullable(),
  byName: z.string(),
  reason: z.string(),
})
export type LogEntry = z.output<typeof LogEntry>

const day = z.iso.date('Write the date as 2026-11-23.')
export const LogFilter = z.object({
  group: z.enum(PLANT_GROUPS).optional(),
  by: z.uuid().optional(),
  from: day.optional(),
  to: day.optional(),
  /** Words that stand in the entry. */
  text: z.string().trim().max(120).optional(),
  /** Only entries older than this one. */
  before: z.coerce.number().int().min(1).optional(),
  most: z.coerce.number().int().min(1).max(500).default(100),
})
export type LogFilter = z.output<typeof LogFilter>

export const LogPage = z.object({
  entries: z.array(LogEntry),
  /** Up to which entry the log was looked through last, by whom and when; null: never. */
  reviewed: z.object({ position: z.int(), at: z.string(), byName: z.string() }).nullable(),
})
export type LogPage = z.output<typeof LogPage>

/** How far the plant's record has come, with the plant's signature. */
export const HeadShown = z.object({
  head: z
    .object({
      v: z.literal(1),
      plant: z.uuid(),
      size: z.int(),
      root: z.string(),
      at: z.string(),
      key: z.string(),
      signature: z.string(),
    })
    .nullable(),
  /** What was recorded and waits for the next seal. */
  waiting: z.int(),
  publicKey: z.string().nullable(),
})
export type HeadShown = z.output<typeof HeadShown>

/** Something in the database that is not what the record says. */
export const Mismatch = z.object({
  /** What: a loop by its tag, a person by the name, an entry of the log. */
  where: z.string(),
  field: z.string().nullable(),
  says: z.string(),
})
export type Mismatch = z.output<typeof Mismatch>

export const PlantProof = z.object({
  loops: z.int(),
  events: z.int(),
  entries: z.int(),
  signatures: z.int(),
  /** Events that came with packages and are somebody else's word. */
  foreign: z.int(),
  mismatches: z.array(Mismatch),
})
export type PlantProof = z.output<typeof PlantProof>
