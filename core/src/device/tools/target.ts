import { inSteps, type Tool } from './tool.ts'

/** A target plate or a tape: set by hand, stays where it is. */
export const TARGET: Tool = {
  id: 'target',
  title: 'Target plate and tape',
  refuses: () => null,
  gives: (v, r, draw) => v + 2e-4 * draw * Math.abs(r.high - r.low),
  leak: { share: 0, tau_s: 1 },
  stroke_s: 3,
  shows: (v, r) => inSteps(v, r, 10_000),
}
