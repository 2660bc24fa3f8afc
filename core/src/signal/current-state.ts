import { MEASURING_HIGH_MA, MEASURING_LOW_MA } from './current-range.ts'
/** What a loop current says of itself, from NAMUR NE 43; OPEN below 0.5 mA is our own split. */
export type CurrentState = 'OPEN' | 'FAIL_LOW' | 'GREY_LOW' | 'MEASURE' | 'GREY_HIGH' | 'FAIL_HIGH'

/** 1 nA: a current computed to be on an edge is on it. */
const EDGE_mA = 1e-6

/**
 * State of a 4-20 mA current.
 * @param current_mA - the loop current in mA.
 * @see NAMUR NE 43: 3.8 to 20.5 mA measures, at or below 3.6 and at or above 21.0 mA report a failure.
 */
export function currentState(current_mA: number): CurrentState {
  if (current_mA < 0.5) return 'OPEN'
  if (current_mA <= 3.6 + EDGE_mA) return 'FAIL_LOW'
  if (current_mA < MEASURING_LOW_MA - EDGE_mA) return 'GREY_LOW'
  if (current_mA <= MEASURING_HIGH_MA + EDGE_mA) return 'MEASURE'
  return current_mA < 21 - EDGE_mA ? 'GREY_HIGH' : 'FAIL_HIGH'
}

/** What to tell a technician who sees this current. */
export const CURRENT_STATE_SAYS: Readonly<Record<CurrentState, string>> = {
  OPEN: 'No current: the loop is open, or nothing supplies it.',
  FAIL_LOW: 'The transmitter reports a failure by a low current.',
  GREY_LOW: 'Below the measuring range, not yet a failure signal: hold the last good value.',
  MEASURE: 'A measurement.',
  GREY_HIGH: 'Above the measuring range, not yet a failure signal: hold the last good value.',
  FAIL_HIGH: 'The transmitter reports a failure by a high current.',
}
