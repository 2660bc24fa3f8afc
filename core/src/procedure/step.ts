import type { RelayPlan } from '../signal/relay-plan.ts'
import type { DeviceCommand } from '../device/command.ts'
import type { Adjustment } from '../trim/adjust.ts'
import type { ManifoldKind } from '../manifold/manifold.ts'
import type { Range } from '../signal/stage.ts'
import type { WorkEvent } from './order-of-work.ts'
import type { ProcedureRun } from './run.ts'

export type Values = Readonly<Record<string, number>>

/** Where a number can be read from when a device is on its link; a signal by its name. */
export type FieldSource =
  'pv' | 'current' | 'noise' | 'standard' | 'alerts' | 'change' | { readonly signal: string }

/** A number that a step asks for. */
export interface StepField {
  readonly name: string
  readonly label: string
  readonly unit: string | null
  /** What it is unless something else is typed: what is documented or asked for, never a reading. */
  readonly preset?: number
  readonly readsFrom?: FieldSource
}

/** What was ticked, typed and chosen when a step is done. */
export interface StepAnswer {
  readonly values: Values
  readonly choice: string | null
}

/** One step of a procedure; `caution` and `confirm` are ticked, `tell` is said by radio. */
export interface Step {
  readonly id: string
  readonly kind: 'caution' | 'confirm' | 'tell' | 'valve' | 'apply' | 'wait' | 'read' | 'decide' | 'write'
  readonly title: string
  readonly says: string
  /** State of the work that the step leads to, where it does. */
  readonly work?: WorkEvent
  /** What a named person confirms before going on. */
  readonly hold?: readonly string[]
  readonly fields?: readonly StepField[]
  /** Input to be applied, in the unit of the range; or a current to be held, mA. */
  readonly apply?: number
  readonly holdCurrent_mA?: number | null
  readonly adjustment?: Adjustment['kind']
  readonly phase?: 'asFound' | 'asLeft'
  /** Choices of a decision, and which is recommended where the readings do not tell. */
  readonly choices?: readonly { readonly value: string; readonly title: string }[]
  readonly recommends?: string
  /** Step to go on with after a choice; what lies between is left out. */
  readonly jumps?: Readonly<Record<string, string>>
  /** Whose name stands for what is ticked: somebody besides the one who works. */
  readonly confirmedBy?: string
  /** What the device does by itself in the step. */
  readonly task?: 'healthCheck'
  /** Readings of one series are judged together: scans, buffers, pressures, trips. */
  readonly series?: string
  /** The decision that the procedure's advice is for. */
  readonly judged?: true
  /** Belongs to an adjustment: left out where it is left alone. */
  readonly adjusting?: true
  /** What the button says while a device is on its link. */
  readonly label?: string
  /** What the device is told when the step is done, besides what apply, hold and adjustment say. */
  readonly command?: DeviceCommand | ((answer: StepAnswer) => DeviceCommand)
  /** What the tool has to do before the step can be read; null while it cannot be told yet. */
  readonly before?: (
    values: Values,
    run: ProcedureRun,
  ) => { readonly says: string; readonly command: DeviceCommand } | null
  /** Why these numbers cannot be recorded, or null. @param earlier - of the same series */
  readonly gate?: (values: Values, earlier: readonly Values[]) => string | null
}

/** What a procedure is made for: the loop's numbers as they stood when it was begun. */
export interface ProcedureContext {
  readonly tag: string
  readonly range: Range
  /** Sensor limits; the range itself, widened, where nobody entered any. */
  readonly limits: { readonly low: number; readonly high: number }
  readonly kind: 'gauge' | 'absolute' | 'differential'
  readonly tolerance_pct: number
  /** Time constant of the device, s. */
  readonly tau_s: number
  readonly manifold: ManifoldKind | null
  /** From where a residual with the flow stopped is worth a new zero, and above which it is none; unit of the range. */
  readonly zero?: { readonly least: number; readonly most: number | null } | undefined
  /** The loop's relays as they were planned; none in what was begun before plans were kept. */
  readonly relays?: RelayPlan[] | undefined
}

/** What the closed readings tell about the decision to adjust. */
export interface Advice {
  readonly choice: 'adjust' | 'leave' | 'accept' | 'report'
  readonly says: readonly string[]
}
/** The range the transmitter was really told, where that is known. */
export type DeviceRange = { readonly LRV: number; readonly URV: number } | null

export interface Procedure {
  readonly id: string
  readonly title: string
  readonly purpose: string
  readonly minutes: number
  readonly tools: readonly string[]
  readonly permissions: readonly string[]
  readonly cautions: readonly string[]
  readonly steps: (c: ProcedureContext) => readonly Step[]
  /** Advice for the judged decision; none where nothing is decided from readings. */
  readonly advise?: (run: ProcedureRun, device: DeviceRange) => Advice | null
}
