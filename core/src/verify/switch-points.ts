import { mean } from '../numeric/mean.ts'

export interface SwitchTask {
  readonly setpoint: number
  /** Signed in the trip direction, units per second. */
  readonly rate: number
  readonly latency_s: number
  readonly trips: readonly number[]
  readonly resets: readonly number[]
  readonly T: number
  readonly deadbandLimits?: readonly [number, number]
}
/** Trip and reset points with the latency taken out, deadband and repeatability. */
export function switchPoints(s: SwitchTask) {
  const lag = s.rate * s.latency_s
  const corrected = s.trips.map((x) => x - lag)
  const trip = mean(corrected)
  const reset = s.resets.length > 0 ? mean(s.resets.map((x) => x + lag)) : null
  const deadband = reset === null ? null : Math.abs(trip - reset)
  const repeatability = corrected.length >= 3 ? Math.max(...corrected) - Math.min(...corrected) : null
  const [low, high] = s.deadbandLimits ?? [0, Infinity]
  const wrongSide = reset !== null && (s.rate >= 0 ? reset > trip : reset < trip)
  return {
    trip,
    reset,
    deadband,
    repeatability,
    wrongSide,
    /** A ramp faster than this shifts the point by more than a tenth of the tolerance. */
    fastest: s.latency_s > 0 ? s.T / (10 * s.latency_s) : Infinity,
    passes:
      Math.abs(trip - s.setpoint) <= s.T &&
      !wrongSide &&
      (deadband === null || (deadband >= low && deadband <= high)),
  }
}
