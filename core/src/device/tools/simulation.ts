import type { Tool } from './tool.ts'

/** The device’s own simulated input. */
export const SIMULATION: Tool = {
  id: 'simulation',
  title: 'Simulated input',
  refuses: () => null,
  gives: (v) => v,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 0.5,
  shows: (v) => v,
}
