import type { Tool } from './tool.ts'

/** Two valves in the line: they can stop the flow and nothing else. */
export const STOPPED_FLOW: Tool = {
  id: 'stopped-flow',
  title: 'Valves before and behind',
  refuses: () => null,
  gives: (v) => v,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 6,
  shows: (v) => v,
}
