import { inSteps, type Tool } from './tool.ts'

/** Pump, manifold and reference gauge: it overshoots a little and leaks a little; vented it is zero. */
export const HAND_PUMP: Tool = {
  id: 'hand-pump',
  title: 'Hand pump and gauge on the manifold',
  refuses: () => null,
  gives: (v, r, draw) => (v === 0 ? 0 : v + 4e-4 * draw * Math.abs(r.high - r.low)),
  leak: { share: 2e-4, tau_s: 12 },
  stroke_s: 4,
  shows: (v, r) => inSteps(v, r, 100_000),
}
