import { BUFFERS, bufferPH } from '../../instrument/ph/buffers.ts'
import { inSteps, type Tool, type ToolId } from './tool.ts'

const anything = () => null

/** Pump, manifold and reference gauge: it overshoots a little and leaks a little; vented it is zero. */
const HAND_PUMP: Tool = {
  id: 'hand-pump',
  title: 'Hand pump and gauge on the manifold',
  refuses: anything,
  gives: (v, r, draw) => (v === 0 ? 0 : v + 4e-4 * draw * Math.abs(r.high - r.low)),
  leak: { share: 2e-4, tau_s: 12 },
  stroke_s: 4,
  shows: (v, r) => inSteps(v, r, 100_000),
}
/** A target plate or a tape: set by hand, stays where it is. */
const TARGET: Tool = {
  id: 'target',
  title: 'Target plate and tape',
  refuses: anything,
  gives: (v, r, draw) => v + 2e-4 * draw * Math.abs(r.high - r.low),
  leak: { share: 0, tau_s: 1 },
  stroke_s: 3,
  shows: (v, r) => inSteps(v, r, 10_000),
}
/** Two valves in the line: they can stop the flow and nothing else. */
const STOPPED_FLOW: Tool = {
  id: 'stopped-flow',
  title: 'Valves before and behind',
  refuses: anything,
  gives: (v) => v,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 6,
  shows: (v) => v,
}
/** Bottle, regulator and sonic nozzle: the flow sinks with the bottle. */
const NITROGEN: Tool = {
  id: 'nitrogen',
  title: 'Nitrogen bottle, regulator and nozzle',
  refuses: (v, r) =>
    v < 0
      ? 'The bottle gives; it does not take.'
      : v > r.low + 1.02 * (r.high - r.low)
        ? 'The regulator does not go that high: a larger nozzle is needed.'
        : null,
  gives: (v, r, draw) => (v === 0 ? 0 : v + 1e-3 * draw * Math.abs(r.high - r.low)),
  leak: { share: 5e-4, tau_s: 60 },
  stroke_s: 5,
  shows: (v, r) => inSteps(v, r, 20_000),
}
/** Bottles: only the pH that is on one of them. */
const PH_BUFFERS: Tool = {
  id: 'buffers',
  title: 'Buffer bottles',
  refuses: (v) =>
    BUFFERS.some((b) => Math.abs((bufferPH(b, 25) ?? NaN) - v) < 0.05)
      ? null
      : `There is no such bottle: ${BUFFERS.map((b) => (bufferPH(b, 25) ?? 0).toFixed(2)).join(', ')}.`,
  gives: (v, _r, draw) => v + 0.004 * draw,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 5,
  shows: (v) => Math.round(v * 100) / 100,
}
/** Resistance decade with the table of the sensor: steps, no scatter. */
const DECADE: Tool = {
  id: 'decade',
  title: 'Resistance decade, by the sensor’s table',
  refuses: anything,
  gives: (v, r) => inSteps(v, r, 4000),
  leak: { share: 0, tau_s: 1 },
  stroke_s: 0.5,
  shows: (v) => v,
}
/** The device’s own simulated input. */
const SIMULATION: Tool = {
  id: 'simulation',
  title: 'Simulated input',
  refuses: anything,
  gives: (v) => v,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 0.5,
  shows: (v) => v,
}

const TOOLS: Readonly<Record<ToolId, Tool>> = {
  'hand-pump': HAND_PUMP,
  target: TARGET,
  'stopped-flow': STOPPED_FLOW,
  nitrogen: NITROGEN,
  buffers: PH_BUFFERS,
  decade: DECADE,
  simulation: SIMULATION,
}
export const toolOf = (id: ToolId): Tool => TOOLS[id]
