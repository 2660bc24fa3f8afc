import type { Action } from '../../trim/recommend.ts'

/** Which procedure carries out an action. */
export const PROCEDURE_OF_ACTION: Partial<Readonly<Record<Action, string>>> = {
  zeroTrim: 'zero-trim',
  sensorTrim: 'sensor-trim',
  outputTrim: 'output-trim',
  rerange: 're-range',
}

/** Who has no trim of one name does the same work by another: a level has no zero of its own, a sensor stands in a well. */
const SAME_WORK: Readonly<Record<string, readonly string[]>> = {
  'zero-trim': ['zero-trim', 'sensor-trim', 'temperature-trim'],
  'sensor-trim': ['sensor-trim', 'temperature-trim'],
}
/** Every procedure that does the work of a trim. */
export const TRIM_IDS: readonly string[] = [
  ...new Set([...Object.values(PROCEDURE_OF_ACTION), ...Object.values(SAME_WORK).flat(), 'field-zero']),
]
/** The procedure of a loop that does what another one does; null where it has none. */
export const asLoopHasIt = (id: string, ofLoop: readonly { readonly id: string }[]): string | null =>
  (SAME_WORK[id] ?? [id]).find((x) => ofLoop.some((p) => p.id === x)) ?? null
