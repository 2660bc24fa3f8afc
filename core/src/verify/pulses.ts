import { deviation } from '../numeric/deviation.ts'
import { mean } from '../numeric/mean.ts'
/** A counter over a reference quantity. K pulses per unit. */
export interface TotalTask {
  readonly K: number
  readonly start: number
  readonly end: number
  /** The counter starts again at this number. */
  readonly modulus: number
  readonly reference: number
  /** Flow in units per hour, for times. */
  readonly flowPerHour?: number
  readonly elapsed_s?: number
}
export function totalOf(t: TotalTask) {
  const N = (((t.end - t.start) % t.modulus) + t.modulus) % t.modulus
  const V = N / t.K
  const f_Hz = t.flowPerHour === undefined ? null : (t.K * t.flowPerHour) / 3600
  return {
    N,
    V,
    error_pct: (100 * (V - t.reference)) / t.reference,
    /** ±1 pulse at both ends is a triangle. */
    u_pct: N > 0 ? 100 / (Math.sqrt(6) * N) : Infinity,
    f_Hz,
    /** More than one turn of the counter cannot be told from fewer. */
    plausible: t.elapsed_s === undefined || f_Hz === null || f_Hz <= 0 || N / f_Hz <= 1.01 * t.elapsed_s,
  }
}
/** Pulses for a tolerance, and how long they take. */
export function pulsesNeeded(tolerance_pct: number, f_Hz: number) {
  const pulses = 10 / (tolerance_pct / 100)
  return { pulses, seconds: pulses / f_Hz }
}

export interface Edge {
  readonly t: number
  readonly level: boolean
}
/** Edges after a bounce filter: accepted at the first edge of a run that stands for the filter's time. */
export function debounce(edges: readonly Edge[], filter_s: number, end_s: number, start = false): Edge[] {
  const out: Edge[] = []
  let state = start
  let candidate: number | null = null
  const settle = (t: number) => {
    if (candidate !== null && t - candidate >= filter_s) {
      state = !state
      out.push({ t: candidate, level: state })
      candidate = null
    }
  }
  for (const e of edges) {
    settle(e.t)
    if (e.level !== state) candidate ??= e.t
    else candidate = null
  }
  settle(end_s)
  return out
}

/** Cycle times of a machine from the times of its rising edges, s. */
export function cyclesOf(rising: readonly number[], ideal_s: number, stop_s = 120) {
  const gaps = rising.slice(1).map((t, i) => t - (rising[i] ?? 0))
  const sorted = [...gaps].sort((a, b) => a - b)
  const n = gaps.length
  const quantile = (p: number) => {
    const at = p * (n - 1)
    const i = Math.floor(at)
    const [a = 0, b = a] = [sorted[i], sorted[Math.min(n - 1, i + 1)]]
    return n === 0 ? 0 : a + (b - a) * (at - i)
  }
  const slow = gaps.filter((g) => g > ideal_s && g <= 1.5 * ideal_s)
  const micro = gaps.filter((g) => g > 1.5 * ideal_s && g <= stop_s)
  const down = gaps.filter((g) => g > stop_s)
  const loss = (list: readonly number[]) => list.reduce((s, g) => s + g - ideal_s, 0)
  return {
    count: rising.length,
    mean: n > 0 ? mean(gaps) : 0,
    sd: deviation(gaps),
    median: quantile(0.5),
    p90: quantile(0.9),
    microStops: micro.length,
    microLoss_s: loss(micro),
    downtime_s: loss(down),
    slowLoss_s: loss(slow),
  }
}

/** Availability, performance and quality; a performance above 1 means the ideal cycle is wrong. */
export function effectiveness(
  planned_s: number,
  down_s: number,
  ideal_s: number,
  total: number,
  good: number,
) {
  const A = (planned_s - down_s) / planned_s
  const P = (ideal_s * total) / (planned_s - down_s)
  const Q = total > 0 ? good / total : 0
  return { A, P, Q, OEE: A * P * Q, idealWrong: P > 1 }
}

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
