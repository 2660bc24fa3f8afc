import { z } from 'zod'
import { MOST_RELAYS, RelayPlanSchema } from '../signal/relay-plan.ts'
import { RangeSchema, TransferSchema } from '../signal/schema.ts'
import { KeySignature, Signing } from '../signing/signing.ts'
import { GateNumbers } from './gate-numbers.ts'
import { GATE_IDS } from './gate.ts'
import { OPENING } from './order-of-work.ts'
import { SeenSchema } from './seen.ts'
import { WAYS } from './step.ts'

const Values = z.record(z.string().max(30), z.number().min(-1e15).max(1e15))

/** Gates and judgement as they are now: what was begun by older ones goes on, and is read again, by those. */
export const RULES = 4

/** A procedure begins: everything it is built from is written down first. */
export const Started = z.strictObject({
  type: z.literal('procedure.started'),
  payload: z.strictObject({
    procedure: z.string().max(40),
    revision: z.int().min(1),
    context: z.strictObject({
      tag: z.string().max(40),
      discrete: z.literal(true).optional(),
      range: RangeSchema,
      limits: z.strictObject({ low: z.number(), high: z.number() }),
      kind: z.enum(['gauge', 'absolute', 'differential']),
      tolerance_pct: z.number().positive().max(50),
      toleranceAssumed: z.literal(true).optional(),
      tau_s: z.number().min(0).max(3600),
      manifold: z.enum(['three-valve', 'five-valve']).nullable(),
      zero: z.strictObject({ least: z.number().min(0), most: z.number().positive().nullable() }).optional(),
      relays: z.array(RelayPlanSchema).max(MOST_RELAYS).optional(),
      transfer: TransferSchema.optional(),
      appliedBy: z.enum(['pressure', 'level', 'resistance', 'millivolts', 'flow', 'buffers']).optional(),
      zeroInput: z.strictObject({ value: z.number().nullable(), says: z.string().max(500) }).optional(),
      receiver: z
        .strictObject({
          unit: z.string().max(40),
          shows: z.array(z.number()).max(10).readonly(),
          within: z.number().positive(),
        })
        .optional(),
      told: z
        .record(
          z.string().max(40),
          z.union([z.number(), z.string().max(300), z.array(z.number()).max(40).readonly()]),
        )
        .optional(),
    }),
    /** Readings come from a stand-in, or are typed from the real device. */
    withDevice: z.boolean(),
    equipment: z.array(z.uuid()).max(10),
    /** By which gates it is worked; without it a record from before there were any. */
    rules: z.union([z.literal(2), z.literal(3), z.literal(RULES)]).optional(),
    way: z.enum(WAYS).optional(),
    /** Who says that the loop is not in service. */
    notInServiceBy: z.string().trim().max(60).optional(),
    /** How well the named instruments know what is applied and the current, standard uncertainties (k = 1). */
    knownTo: z
      .strictObject({
        applied: z.number().min(0).max(1e12).optional().describe('in the unit of the range'),
        current: z.number().min(0).max(100).optional().describe('mA'),
      })
      .optional(),
    /** What the plant asks of a reading; left out where that is what is usual. */
    gates: GateNumbers.optional(),
    /** Why it is done without an instrument that covers it. */
    withoutInstrument: z.string().trim().max(500).optional(),
    /** The procedure that it goes on from, and what of that stands: it is not done again. */
    after: z
      .strictObject({
        run: z.uuid(),
        did: z.array(z.enum(OPENING)).max(OPENING.length),
        /** The output holds a current: it is released before anything else. */
        held: z.boolean(),
      })
      .optional(),
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
    /** What the linked device showed in that moment. */
    seen: SeenSchema.optional(),
    /** The first of two typed readings. */
    again: z.strictObject({ at: z.iso.datetime(), values: Values }).optional(),
    /** Gates that are passed over, with the reason; the name is the event's own. */
    overruled: z
      .strictObject({
        gates: z.array(z.enum(GATE_IDS)).min(1).max(GATE_IDS.length),
        reason: z.string().trim().min(3, 'Say why it is done against the gate.').max(500),
      })
      .optional(),
  }),
})
export const TakenOver = z.strictObject({
  type: z.literal('procedure.takenOver'),
  payload: z.strictObject({ from: z.string().max(60) }),
})
/** The work goes on by another procedure, in the run that is begun in the same act. */
export const HandedOver = z.strictObject({
  type: z.literal('procedure.handedOver'),
  payload: z.strictObject({ to: z.string().max(40), run: z.uuid() }),
})
export const AbortAsked = z.strictObject({
  type: z.literal('procedure.abortAsked'),
  payload: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }),
})
/** It has ended, and somebody stands for the record of it. */
export const ProcedureSigned = z.strictObject({
  type: z.literal('procedure.signed'),
  payload: Signing.extend({ signature: KeySignature }),
})

export const ProcedureEventBody = z.discriminatedUnion('type', [
  Started,
  StepDone,
  TakenOver,
  HandedOver,
  AbortAsked,
  ProcedureSigned,
])
export type ProcedureEventBody = z.output<typeof ProcedureEventBody>
export type ProcedureStarted = z.output<typeof Started>['payload']
export const isProcedureType = (type: string): boolean => type.startsWith('procedure.')
