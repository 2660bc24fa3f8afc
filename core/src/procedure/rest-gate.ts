import { sayNumber } from '../quantity/round.ts'
import { wholeGates } from './gate-numbers.ts'
import type { Evidence } from './gate.ts'
import type { ProcedureRun } from './run.ts'

/** Field of the temperature that has to be at rest, °C. */
export const REST_FIELD = 'temperature'
/** A display in tenths tells a rate of half a kelvin a minute after a minute, s. */
export const REST_APART_S = 60
/** Over a longer time it may have risen and fallen again, s. */
const REST_MOST_S = 900

/** How fast a temperature went between two readings, K/min. */
export const restRate_KPerMin = (before_C: number, now_C: number, apart_s: number): number =>
  (60 * (now_C - before_C)) / apart_s

/**
 * Whether what stands in a pipe has come to one temperature: a zero of a flow meter that is set while it still cools is
 * the zero of the cooling. Read twice by hand, also where a device is on its link: what it measures in itself is not
 * what stands in the pipe.
 */
export function restGate(run: ProcedureRun, { values, again, at }: Evidence): [holds: boolean, says: string] {
  const [before, now] = [again?.values[REST_FIELD], values[REST_FIELD]]
  if (!again || before === undefined)
    return [false, `waits for a first reading, noted ${REST_APART_S} s before the one that counts`]
  const last = run.done.at(-1)?.at
  if (last !== undefined && again.at < last && last < at)
    return [false, 'waits for a first reading of this step: that one was noted before it']
  const apart_s = (Date.parse(at) - Date.parse(again.at)) / 1000
  if (apart_s < REST_APART_S)
    return [false, `waits for ${Math.ceil(REST_APART_S - apart_s)} s since the first reading`]
  if (apart_s > REST_MOST_S)
    return [false, `waits for two readings within ${REST_MOST_S / 60} minutes: begin again`]
  if (now === undefined) return [false, 'waits for the second reading']
  const rate = Math.abs(restRate_KPerMin(before, now, apart_s))
  const most = wholeGates(run.started.gates).rate_KPerMin
  return rate <= most * (1 + 1e-9)
    ? [true, `${sayNumber(rate, 2)} K a minute`]
    : [
        false,
        `waits until it changes by less than ${sayNumber(most)} K a minute: it was ${sayNumber(rate, 2)}`,
      ]
}
