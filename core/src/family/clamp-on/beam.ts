import { refused, type Refused } from '../../refused.ts'

/** A layer that the beam crosses twice: film or pad, wall, liner. */
export interface Layer {
  readonly name: string
  readonly thickness_mm: number
  readonly cLong_m_s: number
  /** Null where no shear wave is usable. */
  readonly cShear_m_s: number | null
  /** A person's own choice of wave overrides the rule. */
  readonly wave?: 'longitudinal' | 'shear' | undefined
}
export interface Wedge {
  readonly c_m_s: number
  /** From the pipe's normal, degrees. */
  readonly angle_deg: number
  readonly height_mm: number
}
export interface BeamInput {
  readonly wedge: Wedge
  readonly layers: readonly Layer[]
  readonly id_mm: number
  readonly traverses: 1 | 2 | 3 | 4
  readonly fluid_m_s: number
  readonly tElectronic_us: number
}

export interface CrossedLayer {
  readonly name: string
  readonly thickness_mm: number
  readonly wave: 'longitudinal' | 'shear'
  readonly c_m_s: number
  readonly angle_deg: number
}
export interface Beam {
  /** Axial slowness, µs/m: the same in every layer. */
  readonly K_us_m: number
  readonly layers: readonly CrossedLayer[]
  readonly fluidAngle_deg: number
  /** Between the exit points along the pipe, mm. */
  readonly spacing_mm: number
  readonly path_mm: number
  readonly tFixed_us: number
  readonly tFluid_us: number
}
const degrees = (r: number) => (r * 180) / Math.PI
/** A wave is used when it stays this far from grazing. */
const USABLE = 0.95

function waveIn(layer: Layer, K: number): { wave: CrossedLayer['wave']; c: number } | null {
  const { cLong_m_s: long, cShear_m_s: shear, wave } = layer
  if (wave === 'longitudinal') return K * long < 1 ? { wave, c: long } : null
  if (wave === 'shear') return shear !== null && K * shear < 1 ? { wave, c: shear } : null
  if (K * long < USABLE) return { wave: 'longitudinal', c: long }
  return shear !== null && K * shear < USABLE ? { wave: 'shear', c: shear } : null
}

/** The beam through wedge, layers and fluid, by Snell. */
export function traceBeam(b: BeamInput): Beam | Refused {
  const alpha = (b.wedge.angle_deg * Math.PI) / 180
  const K = Math.sin(alpha) / b.wedge.c_m_s
  const layers: CrossedLayer[] = []
  let spacing = 0
  let tFixed = (2 * b.wedge.height_mm) / 1000 / (b.wedge.c_m_s * Math.cos(alpha)) + b.tElectronic_us / 1e6
  for (const layer of b.layers) {
    if (layer.thickness_mm <= 0) continue
    const used = waveIn(layer, K)
    if (!used)
      return refused(
        `No sound passes the ${layer.name}: the beam is past its critical angle there. Take a wedge with a smaller angle, or check the ${layer.name}’s sound speeds.`,
        layer.name,
        'NO_BEAM',
      )
    const theta = Math.asin(K * used.c)
    layers.push({
      name: layer.name,
      thickness_mm: layer.thickness_mm,
      wave: used.wave,
      c_m_s: used.c,
      angle_deg: degrees(theta),
    })
    spacing += 2 * layer.thickness_mm * Math.tan(theta)
    tFixed += (2 * layer.thickness_mm) / 1000 / (used.c * Math.cos(theta))
  }
  const sine = K * b.fluid_m_s
  if (!(sine < 1))
    return refused(
      'No sound enters the fluid: it is faster than the wedge’s angle allows. Take a wedge with a smaller angle.',
      'fluid',
      'NO_BEAM',
    )
  const theta = Math.asin(sine)
  const path_mm = (b.traverses * b.id_mm) / Math.cos(theta)
  return {
    K_us_m: K * 1e6,
    layers,
    fluidAngle_deg: degrees(theta),
    spacing_mm: spacing + b.traverses * b.id_mm * Math.tan(theta),
    path_mm,
    tFixed_us: tFixed * 1e6,
    tFluid_us: (path_mm / 1000 / b.fluid_m_s) * 1e6,
  }
}

export interface TransitTimes {
  readonly tUp_us: number
  readonly tDown_us: number
  readonly dt_ns: number
}
/** Times against and with a path velocity, m/s. */
export function transitTimes(beam: Beam, fluid_m_s: number, vPath_m_s: number): TransitTimes {
  const L = beam.path_mm / 1000
  const along = vPath_m_s * Math.sin((beam.fluidAngle_deg * Math.PI) / 180)
  const tUp_us = beam.tFixed_us + (L / (fluid_m_s - along)) * 1e6
  const tDown_us = beam.tFixed_us + (L / (fluid_m_s + along)) * 1e6
  return { tUp_us, tDown_us, dt_ns: (tUp_us - tDown_us) * 1000 }
}
/** Sound speed from the mean transit time, m/s; null when no speed fits. */
export function measuredSoundSpeed_m_s(
  beam: Beam,
  traverses: number,
  id_mm: number,
  tMean_us: number,
): number | null {
  const t = (tMean_us - beam.tFixed_us) / 1e6
  if (!(t > 0)) return null
  const K = beam.K_us_m / 1e6
  const B = ((traverses * id_mm) / 1000 / t) ** 2
  const root = 1 - 4 * K * K * B
  return root < 0 ? null : Math.sqrt((1 - Math.sqrt(root)) / (2 * K * K))
}
/** The mean transit time that a meter makes a sound speed of, µs; null where no beam enters the fluid at it. */
export function timeOfSoundSpeed_us(
  beam: Beam,
  traverses: number,
  id_mm: number,
  speed_m_s: number,
): number | null {
  const sine = (beam.K_us_m / 1e6) * speed_m_s
  if (!(sine < 1)) return null
  return beam.tFixed_us + ((traverses * id_mm) / 1000 / (speed_m_s * Math.sqrt(1 - sine ** 2))) * 1e6
}
