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
  readonly K1_us: number
  readonly K2_us: number
  readonly D1: number
  readonly D2: number
  readonly kD: number
  /** Flow-effect term; 0 when the certificate has none. */
  readonly kf: number
  readonly tRef_C: number
}
export function density(f: DensityFactors, period_us: number, tube_C: number, flowDt_us: number): number {
  const square = period_us ** 2 * (1 - (f.kD * (tube_C - f.tRef_C)) / 1e4) - f.kf * flowDt_us ** 2
  return f.D1 + ((f.D2 - f.D1) * (square - f.K1_us ** 2)) / (f.K2_us ** 2 - f.K1_us ** 2)
}
