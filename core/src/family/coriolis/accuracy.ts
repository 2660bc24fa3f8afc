/** Error at a flow by base error and zero stability, %; the certificate says which style. */
export const errorAt_pct = (
  q: number,
  base_pct: number,
  zeroStability: number,
  style: 'max' | 'sum',
): number => {
  const zero = (zeroStability / q) * 100
  return style === 'max' ? Math.max(base_pct, zero) : base_pct + zero
}
/** Flow below which zero stability rules. */
export const kneeFlow = (base_pct: number, zeroStability: number): number => (zeroStability * 100) / base_pct

/** Low-flow cutoff: never 0, twice the zero stability unless told otherwise; with what it may hide in a day. */
export const cutoff = (zeroStability_perHour: number, multiple = 2) => ({
  cutoff: multiple * zeroStability_perHour,
  hidden_perDay: multiple * zeroStability_perHour * 24,
})

export interface PulseOutput {
  readonly frequency_Hz: number
  /** Flow that gives the frequency, per hour. */
  readonly rate_perHour: number
  readonly limit_Hz: number
  readonly width_ms: number
}
/** Pulses per unit, and whether output and receiver follow at 105 % of the rate. */
export function pulses(p: PulseOutput, flow_perHour: number) {
  const top_Hz = 1.05 * p.frequency_Hz
  const widest_ms = (0.5 / top_Hz) * 1000
  const perUnit = (3600 * p.frequency_Hz) / p.rate_perHour
  return {
    frequency_Hz: (flow_perHour * p.frequency_Hz) / p.rate_perHour,
    pulsesPerUnit: perUnit,
    unitsPerPulse: 1 / perUnit,
    top_Hz,
    topOk: top_Hz <= p.limit_Hz,
    widest_ms,
    widthOk: p.width_ms <= widest_ms,
  }
}
