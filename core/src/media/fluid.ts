import { refused, type Refused } from '../refused.ts'
import { sayNumber } from '../quantity/round.ts'
import { brine } from './brine.ts'
import { AIR, Gas, gasViscosity_Pa_s, type Composition } from './gas.ts'
import { SALINITY_EXTRAPOLATED, SALINITY_MOST, seawater } from './seawater.ts'
import { ammonia, TYPICAL_FROM_C, TYPICAL_LIQUIDS, TYPICAL_TO_C } from './typical-liquids.ts'
import { condenses } from './saturation.ts'
import { saturationPressure_MPa, water } from './water.ts'

/** What flows, and where its properties come from. */
export type Fluid =
  | { readonly kind: 'water' }
  | { readonly kind: 'seawater'; readonly salinity: number }
  | { readonly kind: 'brine'; readonly salt_pct: number }
  | { readonly kind: 'gas'; readonly composition: Composition; readonly viscosityAs: string }
  /** A liquid of the typical table, or ammonia. */
  | { readonly kind: 'typical'; readonly liquid: string }
  | {
      readonly kind: 'own'
      readonly density_kg_m3: number
      readonly soundSpeed_m_s: number
      readonly viscosity_Pa_s: number
    }

export type FluidState =
  | {
      readonly kind: 'state'
      readonly density_kg_m3: number
      readonly soundSpeed_m_s: number
      readonly viscosity_Pa_s: number
      /** Gas only: real isentropic exponent and compressibility. */
      readonly kappa: number | null
      readonly Z: number | null
      /** Good to a fraction of a percent, or only typical. */
      readonly typical: boolean
      readonly warnings: readonly string[]
    }
  | Refused

export const ATMOSPHERE_KPA = 101.325
const NO_GAS = { kappa: null, Z: null } as const
/** Flashing is near when the pressure is this close to boiling. */
const NEAR_BOILING_KPA = 50

function boiling(t_C: number, p_kPa: number): { refusal: string | null; warnings: string[] } {
  const boils_kPa = saturationPressure_MPa(t_C + 273.15) * 1000
  if (p_kPa <= boils_kPa)
    return {
      refusal: `At ${sayNumber(t_C)} °C water boils at ${sayNumber(boils_kPa, 4)} kPa absolute; at ${sayNumber(p_kPa, 4)} kPa it is steam.`,
      warnings: [],
    }
  return {
    refusal: null,
    warnings:
      p_kPa < boils_kPa + NEAR_BOILING_KPA
        ? [
            `It boils at ${sayNumber(boils_kPa, 4)} kPa absolute: flashing is near, and the pipe may not be full.`,
          ]
        : [],
  }
}

/** Properties of a fluid at a temperature and an absolute pressure; outside its validity no number but the range. */
export function fluidState(fluid: Fluid, t_C: number, p_kPa: number): FluidState {
  if (!(p_kPa > 0))
    return refused('Absolute pressure is above 0 kPa; gauge pressure needs 101.325 kPa added.')
  if (!(t_C > -273.15)) return refused('Nothing is colder than −273.15 °C.')
  switch (fluid.kind) {
    case 'own': {
      const { density_kg_m3, soundSpeed_m_s, viscosity_Pa_s } = fluid
      if (!(density_kg_m3 > 0 && soundSpeed_m_s > 0 && viscosity_Pa_s > 0))
        return refused('Density, sound speed and viscosity of an own fluid are all above 0.')
      return {
        kind: 'state',
        density_kg_m3,
        soundSpeed_m_s,
        viscosity_Pa_s,
        ...NO_GAS,
        typical: false,
        warnings: [],
      }
    }
    case 'typical': {
      if (fluid.liquid === 'ammonia') {
        const s = ammonia(t_C)
        return s
          ? {
              kind: 'state',
              ...s,
              ...NO_GAS,
              typical: true,
              warnings: ['Saturated liquid ammonia; two published equations differ by 0.8 % in sound speed.'],
            }
          : refused('Liquid ammonia is known here from −30 to 40 °C.')
      }
      const l = TYPICAL_LIQUIDS[fluid.liquid]
      if (!l) return refused(`There is no liquid “${fluid.liquid}”.`)
      if (t_C < TYPICAL_FROM_C || t_C > TYPICAL_TO_C)
        return refused(
          `${l.title} is known at 20 °C; from ${TYPICAL_FROM_C} to ${TYPICAL_TO_C} °C it is carried over, farther it is not.`,
        )
      return {
        kind: 'state',
        density_kg_m3: l.density_kg_m3,
        soundSpeed_m_s: l.soundSpeed_m_s + l.perK * (t_C - 20),
        viscosity_Pa_s: l.viscosity_mPa_s / 1000,
        ...NO_GAS,
        typical: true,
        warnings: [
          `Handbook values of ${l.title} at 20 °C, sound speed ±${l.sure_pct} %; density and viscosity are not corrected for temperature. The supplier’s data win.`,
        ],
      }
    }
    case 'water': {
      if (t_C < 0 || t_C > 350) return refused('Water is computed from 0 to 350 °C as a liquid.')
      if (p_kPa > 100_000) return refused('Water is computed up to 100 MPa.')
      const { refusal, warnings } = boiling(t_C, p_kPa)
      if (refusal) return refused(refusal)
      const s = water(t_C, p_kPa / 1000)
      const deep = t_C <= 100 && p_kPa > 10_000 ? ['Sound speed is fitted up to 10 MPa.'] : []
      return { kind: 'state', ...s, ...NO_GAS, typical: false, warnings: [...warnings, ...deep] }
    }
    case 'seawater': {
      if (t_C < 0 || t_C > 40) return refused('Seawater is computed from 0 to 40 °C.')
      if (fluid.salinity < 0 || fluid.salinity > SALINITY_MOST)
        return refused(`Salinity is computed from 0 to ${SALINITY_MOST}; above that take brine.`)
      const { refusal, warnings } = boiling(t_C, p_kPa)
      if (refusal) return refused(refusal)
      const s = seawater(fluid.salinity, t_C, (p_kPa - ATMOSPHERE_KPA) / 100)
      const far =
        fluid.salinity > SALINITY_EXTRAPOLATED
          ? [
              `Above salinity ${SALINITY_EXTRAPOLATED} the formulas are extrapolated: up to 0.1 % in density and 0.33 % in sound speed.`,
            ]
          : []
      return { kind: 'state', ...s, ...NO_GAS, typical: false, warnings: [...warnings, ...far] }
    }
    case 'brine': {
      if (t_C < 0 || t_C > 60) return refused('Brine is computed from 0 to 60 °C.')
      if (fluid.salt_pct < 0 || fluid.salt_pct > 26.3)
        return refused('Brine is computed from 0 to 26.3 % salt; above that it crystallises at 20 °C.')
      const { refusal, warnings } = boiling(t_C, p_kPa)
      if (refusal) return refused(refusal)
      const s = brine(fluid.salt_pct / 100, t_C, p_kPa / 1000)
      return {
        kind: 'state',
        ...s,
        ...NO_GAS,
        typical: true,
        warnings: [...warnings, 'Brine is typical: ±0.3 % in density, ±0.5 % in sound speed.'],
      }
    }
    case 'gas': {
      const sum = Object.values(fluid.composition).reduce((a, b) => a + b, 0)
      if (!(sum > 0)) return refused('The gas has no composition: give at least one component.')
      if (Object.values(fluid.composition).some((x) => x < 0))
        return refused('A fraction of the gas is below 0.')
      const wet = condenses(fluid.composition, t_C + 273.15, p_kPa)
      if (wet?.sure) return refused(wet.says)
      const s = new Gas(fluid.composition).state(t_C + 273.15, p_kPa)
      if (!s)
        return refused('At this temperature and pressure it is a liquid or two phases: no gas, no number.')
      return {
        kind: 'state',
        density_kg_m3: s.density_kg_m3,
        soundSpeed_m_s: s.soundSpeed_m_s,
        viscosity_Pa_s: gasViscosity_Pa_s(fluid.viscosityAs, t_C + 273.15),
        kappa: s.kappa,
        Z: s.Z,
        typical: false,
        warnings: [
          ...(Math.abs(sum - 1) > 0.001
            ? [`The fractions sum to ${sayNumber(sum, 5)}; they were taken as parts of their sum.`]
            : []),
          ...(wet ? [wet.says] : []),
          ...(p_kPa > 10_000 ? ['Above 10 MPa the equation is less sure.'] : []),
        ],
      }
    }
  }
}

/** Gases that can be picked by name. */
export const NAMED_GASES: Readonly<
  Record<string, { readonly title: string; readonly composition: Composition; readonly viscosityAs: string }>
> = {
  air: { title: 'air', composition: AIR, viscosityAs: 'air' },
  nitrogen: { title: 'nitrogen', composition: { nitrogen: 1 }, viscosityAs: 'nitrogen' },
  carbon_dioxide: {
    title: 'carbon dioxide',
    composition: { carbon_dioxide: 1 },
    viscosityAs: 'carbon_dioxide',
  },
  natural_gas: {
    title: 'natural gas, typical',
    composition: {
      methane: 0.9145,
      ethane: 0.0432,
      propane: 0.0108,
      n_butane: 0.0029,
      isobutane: 0.0021,
      nitrogen: 0.014,
      carbon_dioxide: 0.0125,
    },
    viscosityAs: 'methane',
  },
  methane: { title: 'methane', composition: { methane: 1 }, viscosityAs: 'methane' },
  oxygen: { title: 'oxygen', composition: { oxygen: 1 }, viscosityAs: 'oxygen' },
  argon: { title: 'argon', composition: { argon: 1 }, viscosityAs: 'argon' },
  helium: { title: 'helium', composition: { helium: 1 }, viscosityAs: 'helium' },
  hydrogen: { title: 'hydrogen', composition: { hydrogen: 1 }, viscosityAs: 'hydrogen' },
}
