import { TOOL_SINCE } from './tool-gate.ts'
import type { Step } from './step.ts'

/**
 * The rules that a procedure has to be begun by today, so that each of its steps has the gates that it has now.
 * @param withDevice - over a link, where the tool has to act before some of them
 */
export const rulesAsked = (steps: readonly Step[], withDevice: boolean): number =>
  Math.max(
    0,
    ...steps.flatMap((s) => [
      s.gatesSince ?? 0,
      s.since ?? 0,
      withDevice && s.before !== undefined ? TOOL_SINCE : 0,
      ...(s.fields ?? []).map((f) => f.withinSince ?? 0),
    ]),
  )
