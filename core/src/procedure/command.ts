import type { DeviceCommand } from '../device/command.ts'
import { adjustmentOf } from './engine.ts'
import type { ProcedureRun } from './run.ts'
import type { Step, StepAnswer } from './step.ts'

/** After this step something may be adjusted: the device keeps what a way back would put back. */
const closesAsFound = (run: ProcedureRun, step: Step, { choice }: StepAnswer): boolean =>
  step.work === 'finishAsFound' ||
  // Where nobody knows which reading was the last, the decision to adjust is.
  (step.judged === true && choice === 'adjust') ||
  (step.phase === 'asFound' &&
    !run.left.slice(1).some((s) => s.phase === 'asFound') &&
    run.left.some((s) => s.kind === 'write'))

/** What the device has to be told for a step of a run; null where it has nothing to do. */
export function commandOf(run: ProcedureRun, step: Step, answer: StepAnswer): DeviceCommand | null {
  if (step.command) return typeof step.command === 'function' ? step.command(answer) : step.command
  if (step.commandFrom) return step.commandFrom(run)
  if (step.kind === 'apply' && step.holdCurrent_mA !== undefined)
    return { kind: 'adjust', adjustment: { kind: 'fixCurrent', mA: step.holdCurrent_mA } }
  if ((step.kind === 'apply' || step.kind === 'valve') && step.apply !== undefined)
    return { kind: 'apply', value: step.apply }
  if (closesAsFound(run, step, answer)) return { kind: 'markAsFound' }
  const adjustment = adjustmentOf(step, answer.values)
  return adjustment && { kind: 'adjust', adjustment }
}
