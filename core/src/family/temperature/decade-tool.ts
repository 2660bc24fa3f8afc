import { inSteps, type Tool } from '../../device/tools/tool.ts'

/** Resistance decade with the table of the sensor: steps, no scatter. */
export const DECADE: Tool = {
  id: 'decade',
  title: 'Resistance decade, by the sensor’s table',
  refuses: () => null,
  gives: (v, r) => inSteps(v, r, 4000),
  leak: { share: 0, tau_s: 1 },
  stroke_s: 0.5,
  shows: (v) => v,
}
/** A source of millivolts does the same for a thermocouple: it makes up for the junction at the terminals. */
export const SOURCE: Tool = { ...DECADE, id: 'source', title: 'Millivolt source, by the sensor’s table' }
