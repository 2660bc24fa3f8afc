import { convert, printedUnit, unitOf } from '../quantity/units.ts'
import { countingU_pct } from './k-factor.ts'
import { drawDownUncertainty_pct, timedCatch, verticalVolume_m3 } from './flow-check.ts'

/** What was measured of a reference flow, with how well each is known (±, k = 2); the flow is reckoned from it. */
export type Measured =
  | {
      readonly by: 'weighed'
      readonly mass_kg: number
      readonly seconds: number
      readonly density_kg_m3: number
      readonly massU_kg: number
      /** Start and stop within ±, s. */
      readonly startStop_s: number
      readonly densityU_pct: number
    }
  | {
      readonly by: 'drawn'
      readonly diameter_m: number
      readonly from_m: number
      readonly to_m: number
      readonly seconds: number
      readonly diameterU_m: number
      readonly levelU_m: number
      readonly startStop_s: number
    }
  | {
      readonly by: 'counted'
      readonly pulses: number
      readonly seconds: number
      /** Pulses of the reference meter for one unit. */
      readonly K: number
      readonly per: PulsesPer
      /** The factor known to ±, %. */
      readonly KU_pct: number
      readonly startStop_s: number
    }

/** What the pulses of a reference meter count. */
export const PULSES_PER = ['m3', 'L', 'kg'] as const
export type PulsesPer = (typeof PULSES_PER)[number]
const PER_HOUR: Readonly<Record<PulsesPer, string>> = { m3: 'm3/h', L: 'L/h', kg: 'kg/h' }

/** Density of air that a scale's reading is corrected for, kg/m³. */
const AIR_KG_M3 = 1.2

export type MeasuredFlow =
  | { readonly kind: 'flow'; readonly reference: number; readonly U_pct: number }
  | { readonly kind: 'refused'; readonly says: string }

const refuse = (says: string): MeasuredFlow => ({ kind: 'refused', says })

/** Whether a unit is that of a flow, so that it can be reckoned from what was caught. */
export const isFlowUnit = (unit: string): boolean =>
  ['volume_flow', 'mass_flow'].includes(unitOf(unit).dimension)

function weighed(m: Extract<Measured, { by: 'weighed' }>, unit: string): MeasuredFlow {
  if (!(m.mass_kg > 0)) return refuse('Weigh what was caught: above 0 kg.')
  if (!(m.density_kg_m3 > AIR_KG_M3)) return refuse('The density is that of the liquid, above that of air.')
  const isMass = unitOf(unit).dimension === 'mass_flow'
  const c = timedCatch({
    indicated_kg: m.mass_kg,
    seconds: m.seconds,
    density_kg_m3: m.density_kg_m3,
    air_kg_m3: AIR_KG_M3,
    uMass_kg: m.massU_kg / 2,
    halfTime_s: m.startStop_s,
    // A mass flow does not ask for the density.
    uDensity_pct: isMass ? 0 : m.densityU_pct / 2,
  })
  const told = isMass
    ? convert((c.mass_kg / m.seconds) * 3600, 'kg/h', unit)
    : convert(c.flow_m3_h, 'm3/h', unit)
  return told.kind === 'value'
    ? { kind: 'flow', reference: told.value, U_pct: c.U_pct }
    : refuse(`A catch says nothing in ${printedUnit(unit)}.`)
}

function drawn(m: Extract<Measured, { by: 'drawn' }>, unit: string): MeasuredFlow {
  const drop = Math.abs(m.from_m - m.to_m)
  if (!(m.diameter_m > 0)) return refuse('Type the tank’s inner diameter.')
  if (!(drop > 0)) return refuse('Both levels are equal: nothing flowed.')
  const told = convert((verticalVolume_m3(m.diameter_m, m.from_m, m.to_m) / m.seconds) * 3600, 'm3/h', unit)
  if (told.kind !== 'value') return refuse(`A level says nothing in ${printedUnit(unit)}.`)
  const volume = drawDownUncertainty_pct(m.diameter_m, m.diameterU_m / 2, drop, m.levelU_m / 2)
  const time = (100 * m.startStop_s) / Math.sqrt(3) / m.seconds
  return { kind: 'flow', reference: told.value, U_pct: 2 * Math.hypot(volume, time) }
}

function counted(m: Extract<Measured, { by: 'counted' }>, unit: string): MeasuredFlow {
  if (!(m.pulses >= 1)) return refuse('Type the pulses that were counted: one at least.')
  if (!(m.K > 0)) return refuse('Type how many pulses the reference meter gives for one unit.')
  if (unitOf(unit).dimension !== unitOf(PER_HOUR[m.per]).dimension)
    return refuse(`Pulses for one ${printedUnit(m.per)} say nothing in ${printedUnit(unit)}.`)
  const told = convert((m.pulses / m.K / m.seconds) * 3600, PER_HOUR[m.per], unit)
  if (told.kind !== 'value') return refuse(`Pulses say nothing in ${printedUnit(unit)}.`)
  const count = countingU_pct(m.pulses)
  const time = (100 * m.startStop_s) / Math.sqrt(3) / m.seconds
  return { kind: 'flow', reference: told.value, U_pct: 2 * Math.hypot(m.KU_pct / 2, count, time) }
}

/**
 * The flow that follows from what was measured, in a unit, and its expanded uncertainty in percent of it.
 * @see flow-check.ts for the buoyancy of the catch and the draw-down
 */
export function measuredFlow(m: Measured, unit: string): MeasuredFlow {
  if (!(m.seconds > 0)) return refuse('Type how long it took: above 0 s.')
  switch (m.by) {
    case 'weighed':
      return weighed(m, unit)
    case 'drawn':
      return drawn(m, unit)
    case 'counted':
      return counted(m, unit)
  }
}
