import { sayNumber } from '../quantity/round.ts'
import type { Composition } from './gas.ts'
import type { GasKey } from './gas-table.ts'
import { saturationPressure_MPa } from './water.ts'

/**
 * Critical temperature (K), critical pressure (bar) and the four constants of Wagner’s vapour pressure equation
 * ln(p/pc) = (A τ + B τ^1.5 + C τ³ + D τ⁶)/Tr, τ = 1 − Tr; within about 1 % between the triple and the critical point.
 * What boils below −118 °C is a gas on every plant.
 * @see Reid, Prausnitz, Poling: The Properties of Gases and Liquids, 4th edition, appendix A
 */
const WAGNER: Readonly<Partial<Record<GasKey, readonly [number, number, number, number, number, number]>>> = {
  methane: [190.4, 46.0, -6.00435, 1.1885, -0.83408, -1.22833],
  ethane: [305.4, 48.8, -6.34307, 1.0163, -1.19116, -2.03539],
  propane: [369.8, 42.5, -6.72219, 1.33236, -2.13868, -1.38551],
  n_butane: [425.2, 38.0, -6.88709, 1.15157, -1.99873, -3.13003],
  isobutane: [408.2, 36.5, -6.95579, 1.5009, -2.52717, -1.49776],
  n_pentane: [469.7, 33.7, -7.28936, 1.53679, -3.08367, -1.02456],
  isopentane: [460.4, 33.9, -7.12727, 1.38996, -2.54302, -2.45657],
  n_hexane: [507.5, 30.1, -7.46765, 1.44211, -3.28222, -2.50941],
  n_heptane: [540.3, 27.4, -7.67468, 1.37068, -3.5362, -3.20243],
  n_octane: [568.8, 24.9, -7.91211, 1.38007, -3.80435, -4.50132],
  n_nonane: [594.6, 22.9, -8.2448, 1.57885, -4.38155, -4.04412],
  n_decane: [617.7, 21.2, -8.56523, 1.97756, -5.81971, -0.29982],
  carbon_dioxide: [304.1, 73.8, -6.95626, 1.19695, -3.12614, 2.99448],
}

/** Share of the critical temperature down to which the equation says anything. */
const LEAST_REDUCED = 0.4
/** Temperature below which nothing is known of a component’s boiling, K; 0 where it is a gas at any. */
export const boilingKnownFrom_K = (key: GasKey): number =>
  key === 'water' ? 273.15 : (WAGNER[key]?.[0] ?? 0) * LEAST_REDUCED

/**
 * Pressure at which a pure component boils, kPa absolute.
 * @param T - K
 * @returns null above its critical temperature, or where it is a gas at any temperature of a plant
 */
export function boilingPressure_kPa(key: GasKey, T: number): number | null {
  if (key === 'water') return T < 647.096 ? saturationPressure_MPa(T) * 1000 : null
  const told = WAGNER[key]
  if (!told) return null
  const [Tc, pc_bar, A, B, C, D] = told
  if (T >= Tc) return null
  // Colder it is as good as nothing, and the equation is no more than a guess.
  const reduced = Math.max(LEAST_REDUCED, T / Tc)
  const x = 1 - reduced
  return 100 * pc_bar * Math.exp((A * x + B * x ** 1.5 + C * x ** 3 + D * x ** 6) / reduced)
}

/** From this share on a component is as good as alone: nothing keeps it in the gas. */
const ALONE = 0.95
/** Up to here a component condenses when its own share of the pressure does; at more, the other gases carry it. */
const IDEAL_TO_KPA = 1000

/** What of a gas is a liquid. */
export interface Wet {
  /** There is no gas, no number; otherwise it may be wet. */
  readonly sure: boolean
  /** It is one component, as good as alone. */
  readonly alone: boolean
  readonly says: string
}

/**
 * Whether a gas is a gas at this temperature and pressure.
 * @param T - K
 * @param p_kPa - absolute
 * @returns what boils, or null where it is a gas
 */
export function condenses(composition: Composition, T: number, p_kPa: number): Wet | null {
  const all = Object.entries(composition) as [GasKey, number][]
  const sum = all.reduce((s, [, x]) => s + x, 0)
  for (const [key, x] of all) {
    const boils_kPa = boilingPressure_kPa(key, T)
    const share = x / sum
    if (boils_kPa === null || share * p_kPa <= boils_kPa) continue
    const name = key.replace(/^n_/, 'n-').replace(/_/g, ' ')
    const at = `At ${sayNumber(T - 273.15, 4)} °C ${name} boils at ${sayNumber(boils_kPa, 4)} kPa absolute`
    if (share >= ALONE)
      return {
        sure: true,
        alone: true,
        says: `${at}; at ${sayNumber(p_kPa, 4)} kPa it is a liquid, not a gas.`,
      }
    return {
      sure: p_kPa <= IDEAL_TO_KPA,
      alone: false,
      says: `${at}, and its share of the pressure is ${sayNumber(share * p_kPa, 4)} kPa: a part of it ${p_kPa <= IDEAL_TO_KPA ? 'is' : 'may be'} liquid.`,
    }
  }
  return null
}
