import { REGION_1, REGION_4, VISCOSITY_H } from './water-table.ts'

const R_KJ = 0.461526
const ATMOSPHERE_MPA = 0.101325

/** State of a liquid. SI units. */
export interface LiquidState {
  readonly density_kg_m3: number
  readonly soundSpeed_m_s: number
  readonly viscosity_Pa_s: number
}

/** Density and sound speed by IAPWS-IF97 region 1. @param T - K @param p - MPa absolute */
export function region1(T: number, p: number): { density_kg_m3: number; soundSpeed_m_s: number } {
  const pi = p / 16.53
  const tau = 1386 / T
  let gp = 0
  let gpp = 0
  let gtt = 0
  let gpt = 0
  for (const [I, J, n] of REGION_1) {
    const a = 7.1 - pi
    const b = tau - 1.222
    gp -= n * I * a ** (I - 1) * b ** J
    gpp += n * I * (I - 1) * a ** (I - 2) * b ** J
    gtt += n * a ** I * J * (J - 1) * b ** (J - 2)
    gpt -= n * I * a ** (I - 1) * J * b ** (J - 1)
  }
  const v = (pi * gp * R_KJ * T) / (1000 * p)
  const c = Math.sqrt((1000 * R_KJ * T * gp * gp) / ((gp - tau * gpt) ** 2 / (tau * tau * gtt) - gpp))
  return { density_kg_m3: 1 / v, soundSpeed_m_s: c }
}

/** Pressure at which water boils, MPa. @see IAPWS-IF97 region 4 */
export function saturationPressure_MPa(T: number): number {
  const [n1, n2, n3, n4, n5, n6, n7, n8, n9, n10] = REGION_4
  const th = T + n9 / (T - n10)
  const A = th * th + n1 * th + n2
  const B = n3 * th * th + n4 * th + n5
  const C = n6 * th * th + n7 * th + n8
  return ((2 * C) / (-B + Math.sqrt(B * B - 4 * A * C))) ** 4
}

/** Viscosity of water at a density, Pa·s. @see IAPWS 2008, without the critical term */
export function waterViscosity_Pa_s(T: number, density_kg_m3: number): number {
  const t = T / 647.096
  const r = density_kg_m3 / 322
  const mu0 = (100 * Math.sqrt(t)) / (1.67752 + 2.20462 / t + 0.6366564 / t ** 2 - 0.241605 / t ** 3)
  let sum = 0
  for (const [i, j, H] of VISCOSITY_H) sum += H * (1 / t - 1) ** i * (r - 1) ** j
  return mu0 * Math.exp(r * sum) * 1e-6
}

/** Highest temperature of the polynomial below; the steam formulation is 0.13 % too high there, and joined over 50 K. */
const POLYNOMIAL_TO_C = 100
const JOINED_OVER_K = 50

/**
 * Sound speed of water, m/s. Below 100 °C Marczak's polynomial with pressure terms fitted to IAPWS-95;
 * the industrial formulation is too high there.
 */
export function waterSoundSpeed_m_s(t_C: number, p_MPa: number): number {
  if (t_C > POLYNOMIAL_TO_C) {
    const ends = waterSoundSpeed_m_s(POLYNOMIAL_TO_C, p_MPa)
    const begins = region1(POLYNOMIAL_TO_C + 273.15, p_MPa).soundSpeed_m_s
    const left = Math.max(0, 1 - (t_C - POLYNOMIAL_TO_C) / JOINED_OVER_K)
    return region1(t_C + 273.15, p_MPa).soundSpeed_m_s * (1 + (ends / begins - 1) * left)
  }
  const t = t_C
  const q = p_MPa - ATMOSPHERE_MPA
  return (
    1402.385 +
    t * (5.038813 + t * (-5.799136e-2 + t * (3.287156e-4 + t * (-1.398845e-6 + t * 2.78786e-9)))) +
    q * (1.587 + t * (2.8821e-3 + t * (1.9202e-5 + t * 8.7997e-8))) +
    q * q * (1.485e-3 - 4.4348e-5 * t)
  )
}

/** Water as a liquid. @param t_C - °C @param p_MPa - absolute */
export function water(t_C: number, p_MPa: number): LiquidState {
  const T = t_C + 273.15
  const { density_kg_m3 } = region1(T, p_MPa)
  return {
    density_kg_m3,
    soundSpeed_m_s: waterSoundSpeed_m_s(t_C, p_MPa),
    viscosity_Pa_s: waterViscosity_Pa_s(T, density_kg_m3),
  }
}
