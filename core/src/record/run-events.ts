import { z } from 'zod'
import { ToleranceSchema } from '../loop/document.ts'
import { RangeSchema } from '../signal/schema.ts'
import { DISTRIBUTIONS } from '../statistics/budget.ts'
import { DECISION_RULES } from '../verify/decision.ts'
import { PLAN_NAMES } from '../verify/plan.ts'

export const Phase = z.enum(['asFound', 'asLeft'])
export type Phase = z.output<typeof Phase>

/** One typed value: what was typed and the number used, in the unit that the run gives the column. */
const Typed = z.strictObject({
  value: z.number().min(-1e15).max(1e15),
  typed: z.string().max(40),
})
export type Typed = z.output<typeof Typed>

export const COLUMNS = ['applied', 'pv', 'loopCurrent_mA', 'controller'] as const
export type Column = (typeof COLUMNS)[number]

/** A verification begins: everything it will be judged by is written down first. */
const RunStarted = z.strictObject({
  type: z.literal('run.started'),
  payload: z.strictObject({
    plan: z.enum(PLAN_NAMES),
    revision: z.int().min(1),
    tolerance: ToleranceSchema,
    inputRange: RangeSchema,
    outputRange: RangeSchema,
    equipment: z.array(z.uuid()).max(10),
    /** Expanded uncertainty of the comparison, % of span; 0 when not stated. */
    U_pct: z.number().min(0).max(50),
    /** What it was made of; absent where it was typed or not stated. */
    budget: z
      .strictObject({
        lines: z
          .array(
            z.strictObject({
              title: z.string().max(120),
              value: z.number().min(0),
              unit: z.string().max(40),
              distribution: z.enum(DISTRIBUTIONS),
              /** % of span for one of its unit. */
              c: z.number(),
              nu: z.int().min(1).optional(),
            }),
          )
          .max(40),
        missing: z.array(z.string().max(300)).max(10),
        k: z.number().positive(),
        /** By the formula, or by trials where those did not bear it out; then with their seed. */
        method: z.enum(['formula', 'trials']),
        seed: z.int().nullable(),
      })
      .optional(),
    /** How an error is accepted; simple acceptance where it was not agreed. */
    rule: z.enum(DECISION_RULES).optional(),
    /** Why it is judged by something else than the recorded loop and the register; stands on every paper. */
    deviation: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }).optional(),
  }),
})

/** Instruments that were used and not named at the beginning. */
const EquipmentNamed = z.strictObject({
  type: z.literal('equipment.named'),
  payload: z.strictObject({ equipment: z.array(z.uuid()).min(1, 'Name an instrument.').max(10) }),
})

/** One row as it stands now. A row typed again is a new event; the earlier one stays in the record. */
const ReadingRecorded = z.strictObject({
  type: z.literal('reading.recorded'),
  payload: z.strictObject({
    phase: Phase,
    index: z.int().min(0).max(60),
    values: z.partialRecord(z.enum(COLUMNS), Typed),
  }),
})

/** A value that looks like a slip was looked at again: it is what was read. Typing the row anew takes this back. */
const ReadingConfirmed = z.strictObject({
  type: z.literal('reading.confirmed'),
  payload: z.strictObject({
    phase: Phase,
    index: z.int().min(0).max(60),
    columns: z.array(z.enum(COLUMNS)).min(1).max(COLUMNS.length),
  }),
})

const PhaseClosed = z.strictObject({
  type: z.literal('phase.closed'),
  payload: z.strictObject({ phase: Phase }),
})

/** Nothing was adjusted: the as-found readings are the as-left ones, by reference. */
const LeftAsFound = z.strictObject({ type: z.literal('left.asFound'), payload: z.strictObject({}) })

const Adjusted = z.strictObject({
  type: z.literal('adjusted'),
  payload: z.strictObject({ note: z.string().trim().min(1, 'Say what was adjusted.').max(500) }),
})

const Signed = z.strictObject({
  type: z.literal('signed'),
  payload: z.strictObject({ as: z.enum(['technician', 'reviewer']), statement: z.string().max(300) }),
})

const Returned = z.strictObject({
  type: z.literal('returned'),
  payload: z.strictObject({ reason: z.string().trim().min(1, 'Say why it goes back.').max(500) }),
})

export const RunEventBody = z.discriminatedUnion('type', [
  RunStarted,
  EquipmentNamed,
  ReadingRecorded,
  ReadingConfirmed,
  PhaseClosed,
  LeftAsFound,
  Adjusted,
  Signed,
  Returned,
])
export type RunEventBody = z.output<typeof RunEventBody>
export type RunStartedPayload = z.output<typeof RunStarted>['payload']
