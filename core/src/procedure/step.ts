import type { Adjustment } from '../device/transmitter.ts'
import type { Range } from '../signal/stage.ts'
import type { WorkEvent } from './order-of-work.ts'

/** A number that a step asks for. */
export interface StepField {
  readonly name: string
  readonly label: string
  readonly unit: string | null
  /** What it is unless something else is typed. */
  readonly preset?: number
}

/** One step of a procedure, as data; `caution` and `confirm` are ticked, `tell` is said by radio. */
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
  readonly manifold: 'three-valve' | 'five-valve' | null
}

export interface Procedure {
  readonly id: string
  readonly title: string
  readonly purpose: string
  readonly minutes: number
  /** Words of the loop's type that it is for; none: any analogue loop. */
  readonly fits: (type: string) => boolean
  readonly tools: readonly string[]
  readonly permissions: readonly string[]
  readonly cautions: readonly string[]
  readonly steps: (c: ProcedureContext) => readonly Step[]
}
