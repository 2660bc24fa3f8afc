import { z } from 'zod'
import { MOST_RELAYS, RelayPlanSchema } from '../signal/relay-plan.ts'
import { RangeSchema } from '../signal/schema.ts'

const Values = z.record(z.string().max(30), z.number().min(-1e15).max(1e15))

/** A procedure begins: everything it is built from is written down first. */
export const Started = z.strictObject({
  type: z.literal('procedure.started'),
  payload: z.strictObject({
    procedure: z.string().max(40),
    revision: z.int().min(1),
    context: z.strictObject({
      tag: z.string().max(40),
      range: RangeSchema,
      limits: z.strictObject({ low: z.number(), high: z.number() }),
      kind: z.enum(['gauge', 'absolute', 'differential']),
      tolerance_pct: z.number().positive().max(50),
      tau_s: z.number().min(0).max(3600),
      manifold: z.enum(['three-valve', 'five-valve']).nullable(),
      zero: z.strictObject({ least: z.number().min(0), most: z.number().positive().nullable() }).optional(),
      relays: z.array(RelayPlanSchema).max(MOST_RELAYS).optional(),
    }),
    /** Readings come from a stand-in, or are typed from the real device. */
    withDevice: z.boolean(),
    equipment: z.array(z.uuid()).max(10),
  }),
})
/** A step was done, with what was ticked, typed, read or chosen. */
export const StepDone = z.strictObject({
  type: z.literal('procedure.step'),
  payload: z.strictObject({
    step: z.string().max(60),
    ticks: z.int().min(0).max(20).default(0),
    values: Values.default({}),
    choice: z.string().max(40).nullable().default(null),
    /** A value that looks like a slip and was confirmed. */
    confirmed: z.boolean().default(false),
    note: z.string().max(500).default(''),
    /** Who else confirmed it, by name. */
    confirmedBy: z.string().trim().max(60).default(''),
  }),
})
export const TakenOver = z.strictObject({
  type: z.literal('procedure.takenOver'),
  payload: z.strictObject({ from: z.string().max(60) }),
})
export const AbortAsked = z.strictObject({
  type: z.literal('procedure.abortAsked'),
  payload: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }),
})

export const ProcedureEventBody = z.discriminatedUnion('type', [Started, StepDone, TakenOver, AbortAsked])
export type ProcedureEventBody = z.output<typeof ProcedureEventBody>
export type ProcedureStarted = z.output<typeof Started>['payload']
export const isProcedureType = (type: string): boolean => type.startsWith('procedure.')
