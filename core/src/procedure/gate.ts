import { printedUnit } from '../quantity/units.ts'
import { allowedOf } from './allowed.ts'
import { USUAL_GATES, type GateNumbers } from './gate-numbers.ts'
import type { Seen } from './seen.ts'
import type { ProcedureRun } from './run.ts'
import type { Step, Values } from './step.ts'

/** What may have to be true before a step is done. */
export const GATE_IDS = [
  'asFound',
  'authority',
  'tool',
  'input',
  'held',
  'still',
  'limit',
  'rest',
  'quiet',
  'process',
  'digits',
  'reading',
  'equipment',
] as const
export type GateId = (typeof GATE_IDS)[number]

export interface GateState {
  readonly id: GateId
  readonly title: string
  readonly holds: boolean
  /** What holds, or what it waits for. */
  readonly says: string
}

/** The same reading, typed before. */
export interface TypedBefore {
  readonly at: string
  readonly values: Values
}
/** What a step's gates are looked at with. */
export interface Evidence {
  readonly values: Values
  /** Of a linked device; null where readings are typed, or nothing came from it yet. */
  readonly seen: Seen | null
  readonly again: TypedBefore | null
  /** Now, ISO 8601. */
  readonly at: string
  /** What the run is read with; left out where nobody knows, as when a record is read again. */
  readonly instruments?: readonly Dated[] | undefined
}
/** An instrument and the last day of its certificate. */
export interface Dated {
  readonly name: string
  readonly dueOn: string
}

const TITLES: Readonly<Record<GateId, string>> = {
  asFound: 'As found taken',
  authority: 'Manual and bypass confirmed',
  tool: 'At the sensor',
  input: 'Right input',
  held: 'Current held',
  still: 'Standing still',
  limit: 'Not at a limit',
  rest: 'Temperature at rest',
  quiet: 'Quiet, flow stopped',
  process: 'In the process',
  digits: 'Digit by digit',
  reading: 'As the device shows it',
  equipment: 'Instruments in date',
}
export const state = (id: GateId, holds: boolean, says: string): GateState => ({
  id,
  title: TITLES[id],
  holds,
  says,
})
export const unitOf = (run: ProcedureRun) => printedUnit(run.started.context.range.unit)

/** The name of what has to stand still in a step. */
export const steadyField = (step: Step): string | null =>
  step.steady ??
  step.fields?.find((f) => f.name === (step.holdCurrent_mA == null ? 'pv' : 'mA'))?.name ??
  step.fields?.find((f) => ['pv', 'mA', 'measured'].includes(f.name))?.name ??
  null

/** What the plant asked of readings when the run was begun. */
export const plantAsks = ({ started }: ProcedureRun): GateNumbers => started.gates ?? USUAL_GATES

export const spanOf = ({ started }: ProcedureRun) =>
  Math.abs(started.context.range.high - started.context.range.low)
export const byCurrent = (name: string | null) => name === 'mA' || name === 'measured'
/** What may be wrong of a quantity, in its own unit: the loop's tolerance, or in mA, or what a field says. */
export function toleranceOf(run: ProcedureRun, step: Step, name: string | null): number {
  const { pv, mA } = allowedOf(run.started.context)
  const field = step.fields?.find((f) => f.name === name)
  if (field?.within !== undefined && (field.withinSince ?? 0) <= (run.started.rules ?? 0)) return field.within
  return byCurrent(name) ? mA : pv
}
/** Whether a step is done with one of these numbers: before it is there, nothing is proved by it. */
export const asksFor = (step: Step, ...names: readonly string[]): boolean =>
  (step.fields ?? []).some((f) => names.includes(f.name))
