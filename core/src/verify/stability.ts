import { mean } from '../numeric/mean.ts'
import { fitLine } from '../numeric/fit-line.ts'
/** Seconds to wait after a step until a first-order device is within a residual of its end. */
export function dwell_s(dead_s: number, tau_s: number, step: number, residual: number): number {
  return Math.abs(step) <= residual ? dead_s : dead_s + tau_s * Math.log(Math.abs(step) / residual)
}

export interface Stability {
  readonly stable: boolean
  readonly n: number
  /** Length of the window, s. */
  readonly window_s: number
  /** Slope per second by least squares, and the scatter about it. */
  readonly slope: number
  readonly sd: number
  readonly mean: number
  readonly uA: number
  /** The first condition that is not met yet, in words; null when stable. */
  readonly waitsFor: string | null
}

/**
 * Whether a window of samples stands still.
 * @param T - tolerance in the unit of the samples.
 */
export function stabilityOf(
  samples: readonly (readonly [t_s: number, y: number])[],
  tau_s: number,
  T: number,
): Stability {
  const n = samples.length
  const t0 = samples[0]?.[0] ?? 0
  const W = (samples.at(-1)?.[0] ?? 0) - t0
  const line = fitLine(samples)
  const my = n === 0 ? 0 : mean(samples.map(([, y]) => y))
  const slope = line?.slope ?? 0
  const sd = line?.scatter ?? 0
  const uA = n > 0 ? sd / Math.sqrt(n) : 0
  const waitsFor =
    n < 10
      ? `ten samples; ${n} are there`
      : W < 3 * tau_s
        ? `three time constants, ${(3 * tau_s).toFixed(0)} s`
        : Math.abs(slope) * W > 0.1 * T
          ? 'the drift to end'
          : uA > 0.05 * T
            ? 'the noise to average out'
            : null
  return { stable: waitsFor === null, n, window_s: W, slope, sd, mean: my, uA, waitsFor }
}
