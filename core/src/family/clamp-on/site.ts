import { mean } from '../../numeric/mean.ts'
import { ATMOSPHERE_KPA, fluidState, NAMED_GASES, type Fluid, type FluidState } from '../../media/fluid.ts'
import { materialOf } from '../../media/materials-table.ts'
import { TYPICAL_LIQUIDS } from '../../media/typical-liquids.ts'
import { bore, odFromCircumference_mm, scheduledPipe } from '../../media/pipe.ts'
import { numbersOf } from '../../quantity/number-list.ts'
import { isRefused, refused, type Refused } from '../../refused.ts'
import { adviseSensor, usualLength_mm, type SensorAdvice } from './advice.ts'
import { traceBeam, type Beam, type BeamInput } from './beam.ts'
import { mixtureOf } from './mixture.ts'
import type { Entries } from './settings.ts'

/** Everything the entries say of the place: pipe, fluid, beam. */
export interface Site {
  readonly od_mm: number
  readonly wall_mm: number
  readonly liner_mm: number
  readonly id_mm: number
  readonly area_m2: number
  readonly fluid: FluidState & { readonly kind: 'state' }
  readonly advice: SensorAdvice | null
  readonly traverses: 1 | 2 | 3 | 4
  readonly beamInput: BeamInput
  readonly beam: Beam
  readonly roughness_mm: number
  readonly walls_mm: readonly number[]
}

const TRAVERSES = { '1': 1, '2': 2, '3': 3, '4': 4 } as const

/** Roughness of the inside, mm; typical. */
export const ROUGHNESS_MM: Readonly<Record<Entries['roughness'], number>> = {
  smooth: 0.0015,
  new: 0.05,
  used: 0.2,
  mortar: 0.5,
}

export const isGas = (s: Entries): boolean => s.fluid === 'mix' || s.fluid in NAMED_GASES

/** The fluid that was picked. */
export function fluidOf(s: Entries): Fluid {
  const name = s.fluid
  const gas = NAMED_GASES[name]
  if (gas) return { kind: 'gas', composition: gas.composition, viscosityAs: gas.viscosityAs }
  if (name === 'ammonia' || Object.hasOwn(TYPICAL_LIQUIDS, name)) return { kind: 'typical', liquid: name }
  switch (name) {
    case 'mix': {
      const mixture = mixtureOf(s.mixture)
      return { kind: 'gas', composition: typeof mixture === 'string' ? {} : mixture, viscosityAs: 'methane' }
    }
    case 'seawater':
      return { kind: 'seawater', salinity: s.salinity }
    case 'brine':
      return { kind: 'brine', salt_pct: s.salt_pct }
    case 'own':
      return {
        kind: 'own',
        density_kg_m3: s.own_density,
        soundSpeed_m_s: s.own_speed,
        viscosity_Pa_s: s.own_viscosity / 1000,
      }
    default:
      return { kind: 'water' }
  }
}
export const fluidAt = (s: Entries, t_C: number): FluidState =>
  fluidState(fluidOf(s), t_C, s.gauge_kPa + ATMOSPHERE_KPA)

function pipeOf(s: Entries): { od_mm: number; wall_mm: number; walls_mm: number[] } | Refused {
  if (s.by === 'table') {
    const p = scheduledPipe(s.nps, s.schedule)
    return p
      ? { ...p, walls_mm: [] }
      : refused(
          `Size ${s.nps} has no schedule ${s.schedule} in the table. Take another, or enter diameter and wall.`,
          'schedule',
          'NO_SCHEDULE',
        )
  }
  const walls_mm = numbersOf(s.readings)
  const wall_mm = walls_mm.length > 0 ? mean(walls_mm) : s.wall_mm
  const od_mm =
    s.by === 'od'
      ? s.od_mm
      : odFromCircumference_mm({
          circumference_mm: s.circumference_mm,
          tape_mm: s.tape_mm,
          paint_mm: s.paint_mm,
          film_mm: 0,
        })
  return { od_mm, wall_mm, walls_mm }
}

/** On one side of a small pipe two traverses may be too short for the sensors: then four, or opposite each other. */
function apart(b: BeamInput, length_mm: number): Site['traverses'] {
  if (b.traverses !== 2) return b.traverses
  const touch = (traverses: Site['traverses']) => {
    const beam = traceBeam({ ...b, traverses })
    return !isRefused(beam) && beam.spacing_mm < length_mm
  }
  return !touch(2) ? 2 : touch(4) ? 1 : 4
}

/** The place as entered, or the first thing that makes it impossible. */
export function siteOf(s: Entries): Site | Refused {
  const pipe = pipeOf(s)
  if (isRefused(pipe)) return pipe
  const liner_mm = s.liner === 'none' ? 0 : s.liner_mm
  const inside = bore(pipe.od_mm, pipe.wall_mm, liner_mm)
  if (!inside)
    return refused(
      `Wall ${pipe.wall_mm.toFixed(2)} mm and liner ${liner_mm} mm leave no bore in a pipe of ${pipe.od_mm.toFixed(1)} mm. Metres for millimetres, or a circumference for a diameter?`,
      liner_mm > 0 ? 'liner_mm' : 'wall_mm',
      'NO_BORE',
    )
  const fluid = fluidAt(s, s.t_C)
  if (fluid.kind === 'refused') return refused(fluid.says, 't_C', 'FLUID_OUTSIDE')
  const gas = isGas(s)
  const advice = adviseSensor(inside.id_mm, pipe.wall_mm, gas ? 'gas' : 'liquid', s.attenuating)
  const asked = s.traverses
  const wall = materialOf(s.material)
  const liner = materialOf(s.liner)
  const beamInput: BeamInput = {
    wedge: { c_m_s: s.wedge_m_s, angle_deg: s.wedge_deg, height_mm: s.wedge_mm },
    layers: [
      ...(gas && s.film
        ? [{ name: 'film', thickness_mm: s.film_mm, cLong_m_s: 1500, cShear_m_s: null }]
        : []),
      {
        name: 'wall',
        thickness_mm: pipe.wall_mm,
        cLong_m_s: wall?.cLong_m_s ?? 5900,
        cShear_m_s: wall?.cShear_m_s ?? null,
      },
      ...(liner_mm > 0 && liner
        ? [
            {
              name: 'liner',
              thickness_mm: liner_mm,
              cLong_m_s: liner.cLong_m_s,
              cShear_m_s: liner.cShear_m_s,
            },
          ]
        : []),
    ],
    id_mm: inside.id_mm,
    traverses: asked === 'advised' ? (advice?.traverses ?? 1) : TRAVERSES[asked],
    fluid_m_s: fluid.soundSpeed_m_s,
    tElectronic_us: 0,
  }
  const length_mm =
    s.length_mm > 0 ? s.length_mm : (usualLength_mm(s.frequency_MHz) ?? advice?.footprint_mm ?? 0)
  const traverses = asked === 'advised' ? apart(beamInput, length_mm) : beamInput.traverses
  const beam = traceBeam({ ...beamInput, traverses })
  if (isRefused(beam)) return { ...beam, where: 'wedge_deg' }
  return {
    ...pipe,
    liner_mm,
    id_mm: inside.id_mm,
    area_m2: inside.area_m2,
    fluid,
    advice,
    traverses,
    beamInput: { ...beamInput, traverses },
    beam,
    roughness_mm: ROUGHNESS_MM[s.roughness],
  }
}

/** A zero below this is fine as it is, above the second it is no zero: the line is not stopped or not full; m/s. */
export const zeroLimits_m_s = (s: Entries) => ({ least: isGas(s) ? 0.05 : 0.01, most: 0.1 })
