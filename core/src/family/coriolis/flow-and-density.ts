/** Flow factor F in (g/s)/µs, times in µs, k_F in % per 100 °C. */
export interface FlowFactors {
  readonly F: number
  readonly kF: number
  readonly zero_us: number
  readonly tRef_C: number
}
/** Mass flow, g/s. */
export const massFlow_g_s = (f: FlowFactors, dt_us: number, tube_C: number): number =>
  f.F * (dt_us - f.zero_us) * (1 - (f.kF * (tube_C - f.tRef_C)) / 1e4)

/** Two-point density: periods in µs, densities in the unit wanted back, k_D in % per 100 °C. */
export interface DensityFactors {
  readonly lightPeriod_us: number
  readonly heavyPeriod_us: number
  readonly lightDensity: number
  readonly heavyDensity: number
  readonly kD: number
  /** Flow-effect term; 0 when the certificate has none. */
  readonly kf: number
  readonly tRef_C: number
}
export function density(f: DensityFactors, period_us: number, tube_C: number, flowDt_us: number): number {
  const square = period_us ** 2 * (1 - (f.kD * (tube_C - f.tRef_C)) / 1e4) - f.kf * flowDt_us ** 2
  return (
    f.lightDensity +
    ((f.heavyDensity - f.lightDensity) * (square - f.lightPeriod_us ** 2)) /
      (f.heavyPeriod_us ** 2 - f.lightPeriod_us ** 2)
  )
}
