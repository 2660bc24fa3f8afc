import { ProcedureEventBody } from '@calm/core/procedure/events'
import { RunEventBody } from '@calm/core/record/kinds/verification'
import { z } from 'zod'

/** What can happen in a run: a verification or a guided procedure. */
export const EventBody = z.discriminatedUnion('type', [RunEventBody, ProcedureEventBody])
export type EventBody = z.output<typeof EventBody>

/** An event as the client makes it; `id` and `at` come from where it happened. */
export const NewEvent = z.strictObject({
  id: z.uuid(),
  runId: z.uuid(),
  at: z.iso.datetime(),
  /** Who did it. An event goes out in that person's session only; the server refuses any other. */
  by: z.uuid().optional(),
  body: EventBody,
})
export type NewEvent = z.output<typeof NewEvent>

export const NewEvents = z.strictObject({ events: z.array(NewEvent).min(1).max(200) })

/** An event as it stands in the record of a loop. */
export const StoredEvent = z.object({
  id: z.uuid(),
  loopId: z.uuid(),
  runId: z.uuid().nullable(),
  seq: z.int(),
  type: z.string(),
  at: z.string(),
  /** By the server's clock; inside the hash from form 2 on. */
  recordedAt: z.string(),
  form: z.union([z.literal(1), z.literal(2)]),
  /** It happened before the event recorded before it. */
  outOfOrder: z.boolean(),
  by: z.uuid(),
  byName: z.string(),
  /** Came with a package: its author is the package's word, nobody here. */
  foreign: z.boolean(),
  payload: z.unknown(),
  previous: z.string(),
  hash: z.string(),
})
export type StoredEvent = z.output<typeof StoredEvent>

export const ChainProofSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('whole'),
    events: z.int(),
    head: z.string(),
    /** How many of them came with a package and are somebody else's word. */
    foreign: z.int(),
  }),
  z.object({ kind: z.literal('broken'), seq: z.int(), eventId: z.string(), says: z.string() }),
])

export const RunInfo = z.object({
  id: z.uuid(),
  loopId: z.uuid(),
  kind: z.enum(['verification', 'procedure']),
  /** Which procedure; null for a verification. */
  procedure: z.string().nullable(),
  state: z.string(),
  verdict: z.string().nullable(),
  startedAt: z.string(),
  startedBy: z.string(),
  /** Begun elsewhere: it came with a package. */
  foreign: z.boolean(),
  revision: z.int(),
})
export type RunInfo = z.output<typeof RunInfo>
