import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { allowedOf } from './allowed.ts'
import { plantAsks, spanOf, state, unitOf, type Evidence, type GateState } from './gate.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

/** How far the input may be from what was asked for, where that is more than the plant's share of the span. */
const INPUT_TIMES_U = 3
/** A standard that is known no better than this share of the tolerance opens no gate any wider. */
const MOST_INPUT_SHARE = 0.5
/** What was set by hand, against what the readings before ask for. */
function setGate(run: ProcedureRun, step: Step, e: Evidence): GateState | null {
  const field = step.fields?.find((f) => f.wanted)
  const wanted = field?.wanted?.(run)
  if (!field || !wanted) return null
  const unit = printedUnit(field.unit ?? '')
  const asked = `${sayNumber(wanted.value, 5)} ${unit}`
  const value = e.values[field.name]
  if (value === undefined) return state('input', false, `waits for what is set: ${asked}`)
  return Math.abs(value - wanted.value) <= wanted.within * (1 + 1e-9)
    ? state('input', true, `${sayNumber(value, 5)} ${unit} is set`)
    : state('input', false, `waits for ${asked}; ${sayNumber(value, 5)} ${unit} is set`)
}

/** How far the input may be from what a step asks for, in the unit of the range. */
export function inputWithin(run: ProcedureRun): number {
  const u = run.started.withDevice ? 0 : (run.started.knownTo?.applied ?? 0)
  const most = MOST_INPUT_SHARE * allowedOf(run.started.context).pv
  return Math.max((plantAsks(run).input_pct / 100) * spanOf(run), Math.min(INPUT_TIMES_U * u, most))
}

export function inputGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const set = setGate(run, step, e)
  if (set) return set
  const asked = step.apply ?? 0
  const unit = unitOf(run)
  const linked = run.started.withDevice
  const applied = linked ? (e.seen?.standard ?? undefined) : e.values['applied']
  const wanted = `${sayNumber(asked, 6)} ${unit}`
  if (applied === undefined)
    return state(
      'input',
      false,
      linked && e.seen
        ? `waits for ${wanted}: the process is still on the sensor`
        : `waits for what the standard shows at ${wanted}`,
    )
  const may = inputWithin(run)
  return Math.abs(applied - asked) <= may * (1 + 1e-9)
    ? state('input', true, `the standard shows ${sayNumber(applied, 6)} ${unit}`)
    : state(
        'input',
        false,
        `waits for ${wanted}: the standard shows ${sayNumber(applied, 6)} ${unit}, more than ${sayNumber(may, 2)} away`,
      )
}

export function heldGate(step: Step, e: Evidence, linked: boolean): GateState {
  const asked = step.holdCurrent_mA ?? 0
  if (!linked) return state('held', true, 'told to hold it in the step before')
  return e.seen?.held_mA === asked
    ? state('held', true, `the output holds ${asked} mA`)
    : state('held', false, `waits for the output to hold ${asked} mA`)
}
