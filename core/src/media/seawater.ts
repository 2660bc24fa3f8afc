import { water, type LiquidState } from './water.ts'

const BAR_MPA = 0.1
const ATMOSPHERE_MPA = 0.101325
const poly = (t: number, ...c: readonly number[]): number => c.reduceRight((sum, k) => sum * t + k, 0)

/** Density of seawater, kg/m³. @param S - practical salinity @param t - °C @param P - bar gauge @see EOS-80 */
export function seawaterDensity_kg_m3(S: number, t: number, P: number): number {
  const w = poly(t, 999.842594, 6.793952e-2, -9.09529e-3, 1.001685e-4, -1.120083e-6, 6.536332e-9)
  const rho0 =
    w +
    S * poly(t, 0.824493, -4.0899e-3, 7.6438e-5, -8.2467e-7, 5.3875e-9) +
    S ** 1.5 * poly(t, -5.72466e-3, 1.0227e-4, -1.6546e-6) +
    4.8314e-4 * S * S
  const a =
    poly(t, 3.239908, 1.43713e-3, 1.16092e-4, -5.77905e-7) +
    S * poly(t, 2.2838e-3, -1.0981e-5, -1.6078e-6) +
    1.91075e-4 * S ** 1.5
  const b = poly(t, 8.50935e-5, -6.12293e-6, 5.2787e-8) + S * poly(t, -9.9348e-7, 2.0816e-8, 9.1697e-10)
  const K =
    poly(t, 19652.21, 148.4206, -2.327105, 1.360477e-2, -5.155288e-5) +
    S * poly(t, 54.6746, -0.603459, 1.09987e-2, -6.167e-5) +
    S ** 1.5 * poly(t, 7.944e-2, 1.6483e-2, -5.3009e-4) +
    P * a +
    P * P * b
  return rho0 / (1 - P / K)
}

/** Sound speed of seawater, m/s. @see Chen and Millero, UNESCO */
export function seawaterSoundSpeed_m_s(S: number, t: number, P: number): number {
  const Cw =
    poly(t, 1402.388, 5.03711, -5.80852e-2, 3.342e-4, -1.478e-6, 3.1464e-9) +
    P * poly(t, 0.153563, 6.8982e-4, -8.1788e-6, 1.3621e-7, -6.1185e-10) +
    P ** 2 * poly(t, 3.126e-5, -1.7107e-6, 2.5974e-8, -2.5335e-10, 1.0405e-12) +
    P ** 3 * poly(t, -9.7729e-9, 3.8504e-10, -2.3643e-12)
  const A =
    poly(t, 1.389, -1.262e-2, 7.164e-5, 2.006e-6, -3.21e-8) +
    P * poly(t, 9.4742e-5, -1.258e-5, -6.4885e-8, 1.0507e-8, -2.0122e-10) +
    P ** 2 * poly(t, -3.9064e-7, 9.1041e-9, -1.6002e-10, 7.988e-12) +
    P ** 3 * poly(t, 1.1e-10, 6.649e-12, -3.389e-13)
  const B = poly(t, -1.922e-2, -4.42e-5) + P * poly(t, 7.3637e-5, 1.7945e-7)
  const D = 1.727e-3 - 7.9836e-6 * P
  return Cw + A * S + B * S ** 1.5 + D * S * S
}

/** Above this salinity the formulas are extrapolated, and above the second they are refused. */
export const SALINITY_EXTRAPOLATED = 42
export const SALINITY_MOST = 110

/** Factor by which salt thickens water. @see Sharqawy et al. 2010 @param s - mass fraction of salt */
export const saltViscosityFactor = (s: number, t_C: number): number =>
  1 +
  (1.541 + 1.998e-2 * t_C - 9.52e-5 * t_C ** 2) * s +
  (7.974 - 7.561e-2 * t_C + 4.724e-4 * t_C ** 2) * s * s

/** Seawater or reject. @param P_bar - gauge */
export function seawater(S: number, t_C: number, P_bar: number): LiquidState {
  const fresh = water(t_C, P_bar * BAR_MPA + ATMOSPHERE_MPA)
  return {
    density_kg_m3: seawaterDensity_kg_m3(S, t_C, P_bar),
    soundSpeed_m_s: seawaterSoundSpeed_m_s(S, t_C, P_bar),
    viscosity_Pa_s: fresh.viscosity_Pa_s * saltViscosityFactor((1.00471543 * S) / 1000, t_C),
  }
}
