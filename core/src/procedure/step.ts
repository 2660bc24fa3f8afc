import type { Use } from '../plan/consumables.ts'
import type { Typed } from '../quantity/setting.ts'
import type { RelayPlan } from '../signal/relay-plan.ts'
import type { DeviceCommand } from '../device/command.ts'
import type { Adjustment } from '../trim/adjust.ts'
import type { ManifoldKind } from '../manifold/manifold.ts'
import type { Range } from '../signal/stage.ts'
import type { Transfer } from '../signal/transfer.ts'
import type { GateNumbers } from './gate-numbers.ts'
import type { GateId } from './gate.ts'
import type { Outcome } from './outcome.ts'
import type { WorkEvent } from './order-of-work.ts'
import type { ProcedureRun } from './run.ts'

export type Values = Readonly<Record<string, number>>

/** Where a number can be read from when a device is on its link; a signal by its name. */
export type FieldSource =
  | 'pv'
  | 'current'
  | 'noise'
  | 'standard'
  | 'alerts'
  | 'change'
  | 'checksBefore'
  | 'LRV'
  | 'URV'
  | { readonly signal: string }

/** A number that a step asks for. */
export interface StepField {
  readonly name: string
  readonly label: string
  readonly unit: string | null
  /** What it is unless something else is typed: what is documented or asked for, never a reading. */
  readonly preset?: number
  readonly readsFrom?: FieldSource
  /** How far a reading may be off, where it is not the loop's own tolerance that says so; in its unit. */
  readonly within?: number
  /** That holds for what was begun by these rules or later ones. */
  readonly withinSince?: 4
  /** What has to be set, where that follows from what was read before, and how near. */
  readonly wanted?: (run: ProcedureRun) => { readonly value: number; readonly within: number } | null
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
  /** What is keyed in here changes what the device reads, as a trim does: a verification before it knows nothing of it. */
  readonly keysIn?: true
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
  /** Which is recommended by what was read so far. */
  readonly recommendsFrom?: (run: ProcedureRun) => string
  /** Step to go on with after a choice; what lies between is left out. */
  readonly jumps?: Readonly<Record<string, string>>
  /** Steps that fall away after a choice, wherever they stand. */
  readonly drops?: Readonly<Record<string, readonly string[]>>
  /** Whose name stands for what is ticked: somebody besides the one who works. */
  readonly confirmedBy?: string
  /** What the device does by itself in the step. */
  readonly task?: 'healthCheck' | 'start'
  /** What must hold before the step is done; going on against it needs a reason and a name. */
  readonly gates?: readonly GateId[]
  /** Its gates hold for what was begun by these rules or later ones. */
  readonly gatesSince?: 3
  /** It belongs to what was begun by these rules or later ones. */
  readonly since?: 4
  /** Field whose readings have to stand still, where it is not the reading or the current. */
  readonly steady?: string
  /** What has to be written down besides the ticks, as its label. */
  readonly needsNote?: string
  /** After it the flow stands still. */
  readonly stopsFlow?: true
  /** Manual and bypass are among what is confirmed. */
  readonly confirmsManual?: true
  /** What is said instead, from what was read so far. */
  readonly saysFrom?: (run: ProcedureRun) => string
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
  /** The same from what was read so far. */
  readonly commandFrom?: (run: ProcedureRun) => DeviceCommand
  /** What the tool has to do before the step can be read; null while it cannot be told yet. */
  readonly before?: (
    values: Values,
    run: ProcedureRun,
  ) => { readonly says: string; readonly command: DeviceCommand } | null
  /** Why these numbers cannot be recorded, or null. @param earlier - of the same series */
  readonly gate?: (values: Values, earlier: readonly Values[]) => string | null
}

/** In service, not in service yet, or the device in the workshop. */
export type Way = 'inService' | 'commissioning' | 'bench'
export const WAYS = ['inService', 'commissioning', 'bench'] as const satisfies readonly Way[]

/** What is put in where the process was. */
export type AppliedBy = 'pressure' | 'level' | 'resistance' | 'millivolts' | 'flow' | 'buffers'

/** What a procedure is made for: the loop's numbers as they stood when it was begun. */
export interface ProcedureContext {
  readonly tag: string
  /** It switches: no range and no current, what the input has to do is told. */
  readonly discrete?: true | undefined
  readonly range: Range
  /** Sensor limits; the range itself, widened, where nobody entered any. */
  readonly limits: { readonly low: number; readonly high: number }
  readonly kind: 'gauge' | 'absolute' | 'differential'
  readonly tolerance_pct: number
  /** Nobody has told the tolerance: what is usual was taken, and nothing is called good by it. */
  readonly toleranceAssumed?: true | undefined
  /** Time constant of the device, s. */
  readonly tau_s: number
  readonly manifold: ManifoldKind | null
  /** From where a residual with the flow stopped is worth a new zero, and above which it is none; unit of the range. */
  readonly zero?: { readonly least: number; readonly most: number | null } | undefined
  /** The loop's relays as they were planned; none in what was begun before plans were kept. */
  readonly relays?: RelayPlan[] | undefined
  /** From here on none in what was begun before these were kept. */
  readonly transfer?: Transfer | undefined
  readonly appliedBy?: AppliedBy | undefined
  /** What stands at the sensor without process and standard, in the unit of the range. */
  readonly zeroInput?: { readonly value: number | null; readonly says: string } | undefined
  /** What the receiver shows at 4, 8, 12, 16 and 20 mA, and how far it may be off. */
  readonly receiver?:
    { readonly unit: string; readonly shows: readonly number[]; readonly within: number } | undefined
  /** What the family's own procedures are told of the set-up. */
  readonly told?: Readonly<Record<string, number | string | readonly number[]>> | undefined
  /** What the plant asks of readings; what is usual where nobody said. */
  readonly asks?: Partial<GateNumbers> | undefined
  readonly way?: Way | undefined
  /** Readings come over the link; else they are typed. */
  readonly linked?: boolean | undefined
}

/** A number of what the set-up told; NaN where it did not. */
export function toldNumber(c: ProcedureContext, name: string): number {
  const value = c.told?.[name]
  return typeof value === 'number' ? value : NaN
}
/** Numbers of what the set-up told. */
export function toldNumbers(c: ProcedureContext, name: string): readonly number[] {
  const value = c.told?.[name]
  return Array.isArray(value) ? (value as readonly number[]) : []
}

/** What an instrument has to be able to for a procedure. */
export interface Need {
  readonly what: string
  readonly low: number
  readonly high: number
  readonly unit: string
  /** What may be wrong there, in that unit: the instrument has to be known better. */
  readonly allowed: number
}

/** What the closed readings tell about the decision to adjust. */
export interface Advice {
  readonly choice: 'adjust' | 'leave' | 'accept' | 'report'
  readonly says: readonly string[]
  /** The procedures that are the right ones instead, the first to be done first. */
  readonly instead?: readonly string[]
}
/** What a procedure judges: what one of them found stands until another of the same finds otherwise. */
export type Judges = 'sensor' | 'output' | 'trips' | 'health' | 'stored' | 'stem' | 'input'

export interface Procedure {
  readonly id: string
  readonly judges: Judges
  readonly title: string
  readonly purpose: string
  readonly minutes: number
  readonly tools: readonly string[] | ((c: ProcedureContext) => readonly string[])
  /** Nobody does it alone. */
  readonly secondPerson?: 'throughout'
  readonly permissions: readonly string[]
  readonly cautions: readonly string[]
  /** Why it is not for this loop and which one is; null where it fits. */
  readonly unfit?: (c: ProcedureContext) => { readonly says: string; readonly instead: string | null } | null
  /** Instruments it is done with; none where nothing is measured besides the device's own reading. */
  readonly needs?: (c: ProcedureContext) => readonly Need[]
  /** What it uses up, as far as that is known before; none where nothing is. */
  readonly uses?: (c: ProcedureContext) => readonly Use[]
  readonly steps: (c: ProcedureContext) => readonly Step[]
  /** What it came to, from the readings that were taken and the limits of the loop. */
  readonly judge: (run: ProcedureRun) => Outcome
  /**
   * What a write changes of the plant's own sensor, where the loop has one: its data travel with it.
   * @param values - of its description; `lastOn` the day it was calibrated last
   */
  readonly sensorAfter?: (
    run: ProcedureRun,
    values: Typed,
    lastOn: string | null,
    today: string,
  ) => Typed | null
  /** Advice for the judged decision; none where nothing is decided from readings. */
  readonly advise?: (run: ProcedureRun) => Advice | null
}
