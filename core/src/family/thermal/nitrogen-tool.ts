import { inSteps, type Tool } from '../../device/tools/tool.ts'

/** Bottle, regulator and sonic nozzle: the flow sinks with the bottle. */
export const NITROGEN: Tool = {
  id: 'nitrogen',
  title: 'Nitrogen bottle, regulator and nozzle',
  refuses: (v, r) =>
    v < 0
      ? 'The bottle gives; it does not take.'
      : v > r.low + 1.02 * (r.high - r.low)
        ? 'The regulator does not go that high: a larger nozzle is needed.'
        : null,
  // A sonic nozzle is known by its own flow, not by the range of the meter.
  gives: (v, _r, draw) => v * (1 + 1e-3 * draw),
  leak: { share: 5e-4, tau_s: 60 },
  stroke_s: 5,
  shows: (v, r) => inSteps(v, r, 500_000),
}
