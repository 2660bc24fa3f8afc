import { saltViscosityFactor } from './seawater.ts'
import { water, type LiquidState } from './water.ts'

/**
 * Sodium chloride brine; approximate, typical. @see Batzle and Wang 1992
 * @param s - mass fraction of salt, 0 to 0.26 @param t - °C, 0 to 60 @param p - MPa absolute
 */
export function brine(s: number, t: number, p: number): LiquidState {
  const w = water(t, p)
  const density_kg_m3 =
    w.density_kg_m3 +
    1000 *
      s *
      (0.668 + 0.44 * s + 1e-6 * (300 * p - 2400 * p * s + t * (80 + 3 * t - 3300 * s - 13 * p + 47 * p * s)))
  const soundSpeed_m_s =
    w.soundSpeed_m_s +
    s * (1170 - 9.6 * t + 0.055 * t ** 2 - 8.5e-5 * t ** 3 + 2.6 * p - 0.0029 * t * p - 0.0476 * p ** 2) +
    s ** 1.5 * (780 - 10 * p + 0.16 * p ** 2) -
    820 * s * s
  return { density_kg_m3, soundSpeed_m_s, viscosity_Pa_s: w.viscosity_Pa_s * saltViscosityFactor(s, t) }
}
