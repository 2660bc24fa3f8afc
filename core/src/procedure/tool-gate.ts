import { sayNumber } from '../quantity/round.ts'
import type { Evidence } from './gate.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

/** What was begun by older rules has no such gate. */
export const TOOL_SINCE = 4
/** What the tool shows is what was asked of it within this share, and a digit of a pH. */
const [SAME_SHARE, SAME_LEAST] = [0.02, 0.02]

/** Whether a step is read only once the tool has done something: gas that flows, an electrode in its bottle. */
export const toolHasToAct = ({ started }: ProcedureRun, step: Step): boolean =>
  started.withDevice && step.before !== undefined && (started.rules ?? 0) >= TOOL_SINCE

/**
 * Whether the tool has done what the step asks for: without it the process stands on the sensor, and its reading would
 * be taken for that of the standard.
 */
export function toolGate(
  run: ProcedureRun,
  step: Step,
  { values, seen }: Evidence,
): [holds: boolean, says: string] {
  const before = step.before?.(values, run) ?? null
  if (before === null || before.command.kind !== 'apply' || before.command.value === null)
    return [false, 'waits for what has to be typed first: from that follows what is applied']
  const asked = before.command.value
  const shows = seen?.standard ?? null
  if (shows === null) return [false, `waits for “${before.says}”: the process is still on the sensor`]
  return Math.abs(shows - asked) <= Math.max(SAME_LEAST, SAME_SHARE * Math.abs(asked))
    ? [true, `${sayNumber(shows, 5)} stands there`]
    : [false, `waits for “${before.says}”: ${sayNumber(shows, 4)} stands there`]
}
