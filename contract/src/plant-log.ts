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

const hash = z.string().regex(/^[0-9a-f]{64}$/, 'Not a SHA-256.')
/** A head as it leaves the house: whoever has an old one can tell whether the record was rolled back or made anew. */
export const SignedHead = z.strictObject({
  v: z.literal(1),
  plant: z.uuid(),
  size: z.int().min(0),
  root: hash,
  at: z.iso.datetime(),
  /** Fingerprint of the key that signed. */
  key: hash,
  signature: z.string().regex(/^[0-9a-f]{128}$/, 'Not a signature.'),
})
export type SignedHead = z.output<typeof SignedHead>

/** Where an event stands in the plant's tree: its place, and the nodes beside its way to the root (RFC 9162, 2.1.3). */
export const PlaceInTree = z.strictObject({
  event: z.uuid(),
  at: z.int().min(0),
  path: z.array(hash).max(40),
})
export type PlaceInTree = z.output<typeof PlaceInTree>
/** The same with a head that it leads to, and the key that signed this: enough to be proved without the plant. */
export const ProofOfEvent = PlaceInTree.extend({ head: SignedHead, publicKey: hash })
export type ProofOfEvent = z.output<typeof ProofOfEvent>

/** Whether the record of now grew out of a head that was kept. */
export const Grown = z.object({
  grew: z.boolean(),
  says: z.string(),
  /** The proof of it (RFC 9162, 2.1.4), for who wants to make it again. */
  path: z.array(z.string()),
})
export type Grown = z.output<typeof Grown>

/** How far the plant's record has come, with the plant's signature. */
export const HeadShown = z.object({
  head: SignedHead.nullable(),
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
  /** Heads kept outside the database that it was held against: without any, a rollback shows by nothing. */
  heads: z.int(),
  mismatches: z.array(Mismatch),
})
export type PlantProof = z.output<typeof PlantProof>
