import { fitLine } from '../../numeric/fit-line.ts'
const R = 8.31446261815324
const FARADAY = 96485.33212
/** Limits of an acceptable electrode and of a good one; typical. */
export const ACCEPT = { slopeLow_pct: 85, slopeHigh_pct: 105, offset_mV: 30 } as const
const GOOD = { slopeLow_pct: 90, slopeHigh_pct: 102, offset_mV: 15 } as const

/** Theoretical slope, mV per pH. */
export const nernst_mV = (t_C: number): number => (1000 * Math.LN10 * R * (t_C + 273.15)) / FARADAY

/** An electrode: mV at its zero point, and slope in percent of the theoretical one. */
export interface Electrode {
  readonly offset_mV: number
  readonly slope_pct: number
  /** pH at which temperature does not matter; 7 unless the sensor says otherwise. */
  readonly isoPH?: number
}
const ISO = 7
export const electrode_mV = (e: Electrode, pH: number, t_C: number): number =>
  e.offset_mV - (e.slope_pct / 100) * nernst_mV(t_C) * (pH - (e.isoPH ?? ISO))
export const electrode_pH = (e: Electrode, mV: number, t_C: number): number =>
  (e.isoPH ?? ISO) - (mV - e.offset_mV) / ((e.slope_pct / 100) * nernst_mV(t_C))

export type ElectrodeState = 'GOOD' | 'NEARING_END' | 'REJECTED'
export function electrodeState(e: Electrode): ElectrodeState {
  const within = (l: { slopeLow_pct: number; slopeHigh_pct: number; offset_mV: number }) =>
    e.slope_pct >= l.slopeLow_pct && e.slope_pct <= l.slopeHigh_pct && Math.abs(e.offset_mV) <= l.offset_mV
  return within(GOOD) ? 'GOOD' : within(ACCEPT) ? 'NEARING_END' : 'REJECTED'
}

/** Glass resistance carried to 25 °C: it halves for every 8 °C. Typical. */
export const glassAt25_Mohm = (measured_Mohm: number, t_C: number): number =>
  measured_Mohm * 2 ** ((t_C - 25) / 8)

/** Slopes over days: rate and the day on which 85 % is reached; null below three calibrations or without a fall. */
export function lifeOf(days: readonly number[], slopes_pct: readonly number[]) {
  if (days.length < 3 || days.length !== slopes_pct.length) return null
  const line = fitLine(days.map((day, i) => [day, slopes_pct[i] ?? 0]))
  if (!line) return null
  return {
    rate_pct_per_day: line.slope,
    endsOnDay: line.slope < 0 ? line.where(ACCEPT.slopeLow_pct) : null,
  }
}
