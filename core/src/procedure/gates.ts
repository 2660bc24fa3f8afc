import { byCurrent, state, steadyField, type Evidence, type GateId, type GateState } from './gate.ts'
import { heldGate, inputGate } from './input-gate.ts'
import { digitsGate, limitGate, quietGate, readingGate } from './reading-gates.ts'
import { restGate } from './rest-gate.ts'
import { stillLinked, stillTyped } from './still-gate.ts'
import { toolGate, toolHasToAct } from './tool-gate.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

const isNotInService = ({ started }: ProcedureRun): boolean =>
  started.way !== undefined && started.way !== 'inService'
/** Whether the loop may be moved: in manual by name, or not in service by name. */
export const isReleased = (run: ProcedureRun): boolean =>
  isNotInService(run) ||
  run.started.after?.did.includes('manual') === true ||
  run.done.some((d) => d.step.work === 'manual' || d.step.confirmsManual === true)

/** What a device that measures nothing cannot show; its current can be held and read all the same. */
const NEEDS_A_READING: ReadonlySet<GateId> = new Set<GateId>([
  'still',
  'limit',
  'quiet',
  'process',
  'reading',
])
function isSilent(id: GateId, step: Step, e: Evidence): boolean {
  if (!e.seen?.silent || !NEEDS_A_READING.has(id)) return false
  const reads = (step.fields ?? []).some((f) => !byCurrent(f.name))
  return id === 'still' || id === 'reading' ? !byCurrent(steadyField(step)) || reads : true
}

function gate(id: GateId, run: ProcedureRun, step: Step, e: Evidence): GateState {
  const linked = run.started.withDevice
  if (linked && isSilent(id, step, e))
    return state(id, false, 'waits for a reading: the device measures nothing yet')
  switch (id) {
    case 'asFound': {
      const taken = run.done.some((d) => d.step.phase === 'asFound' && d.step.kind === 'read')
      return state(id, taken, taken ? 'read and kept' : 'waits for the as-found readings')
    }
    case 'authority': {
      const byWay = isNotInService(run)
      return state(
        id,
        isReleased(run),
        byWay
          ? `not in service: ${run.started.notInServiceBy ?? 'named at the beginning'}`
          : isReleased(run)
            ? 'confirmed by name'
            : 'waits for manual and bypass, confirmed by name',
      )
    }
    case 'tool':
      return state(id, ...toolGate(run, step, e))
    case 'input':
      return inputGate(run, step, e)
    case 'held':
      return heldGate(step, e, linked)
    case 'still':
      return linked ? stillLinked(run, step, e.seen) : stillTyped(run, step, e)
    case 'limit':
      return limitGate(run, step, e)
    case 'rest':
      return state(id, ...restGate(run, e))
    case 'quiet':
      return quietGate(run, step, e)
    case 'digits':
      return digitsGate(run, step, e)
    case 'process':
      return linked && e.seen?.standard != null
        ? state(id, false, 'waits for the process: it still stands in what was applied')
        : state(id, true, 'nothing else is applied')
    case 'reading':
      return readingGate(run, step, e)
    case 'equipment': {
      const ended = e.instruments?.find((i) => i.dueOn < e.at.slice(0, 10))
      return state(
        id,
        !ended,
        ended
          ? `waits for an instrument in date: the certificate of ${ended.name} ended on ${ended.dueOn}`
          : e.instruments?.length === 0
            ? 'none is named: why, stands in the record'
            : 'every certificate is in date',
      )
    }
  }
}

/**
 * The gates of a step as they stand: a form for readings over the link and a form for typed ones, never none.
 * A value that only the device can have told is held against it where there is a link.
 */
export function gatesOf(run: ProcedureRun, step: Step, e: Evidence): readonly GateState[] {
  const ids =
    step.gatesSince === undefined || (run.started.rules ?? 0) >= step.gatesSince ? (step.gates ?? []) : []
  const reads = run.started.withDevice && (step.fields ?? []).some((f) => typeof f.readsFrom === 'string')
  // A certificate may end between the first step and this one; over the link of a stand-in the tool is simulated.
  const withInstruments =
    !run.started.withDevice &&
    ids.length > 0 &&
    !ids.includes('equipment') &&
    (e.instruments ?? []).length > 0
  return [
    ...(toolHasToAct(run, step) ? (['tool'] as const) : []),
    ...ids,
    ...(reads && ids.length > 0 ? (['reading'] as const) : []),
    ...(withInstruments ? (['equipment'] as const) : []),
  ].map((id) => gate(id, run, step, e))
}

/** One sentence for all gates that are shut. */
export const sayShut = (shut: readonly GateState[]): string =>
  shut.map((g) => `${g.title}: ${g.says}.`).join(' ')
