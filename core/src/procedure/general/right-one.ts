import type { Action } from '../../trim/recommend.ts'

/** Which procedure carries out an action. */
export const PROCEDURE_OF_ACTION: Partial<Readonly<Record<Action, string>>> = {
  zeroTrim: 'zero-trim',
  sensorTrim: 'sensor-trim',
  outputTrim: 'output-trim',
  rerange: 're-range',
}
