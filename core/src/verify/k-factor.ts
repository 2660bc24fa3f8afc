/** A counter over a reference quantity, by the K-factor: K pulses per unit. */
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
/** Standard uncertainty of a count, %: ±1 pulse at both ends is a triangle. */
export const countingU_pct = (N: number): number => (N > 0 ? 100 / (Math.sqrt(6) * N) : Infinity)

export function totalOf(t: TotalTask) {
  const N = (((t.end - t.start) % t.modulus) + t.modulus) % t.modulus
  const V = N / t.K
  const f_Hz = t.flowPerHour === undefined ? null : (t.K * t.flowPerHour) / 3600
  return {
    N,
    V,
    error_pct: (100 * (V - t.reference)) / t.reference,
    u_pct: countingU_pct(N),
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
