import { currentOfFraction } from '../../signal/current-range.ts'

/** Distances downwards from the reference plane, m. */
export interface EchoSetUp {
  /** Distance at 0 % level. */
  readonly empty_m: number
  /** Distance at 100 % level. */
  readonly full_m: number
  /** Sensor face above the reference plane; negative when it hangs below. */
  readonly offset_m: number
  /** From the face: no echo is valid nearer than this. */
  readonly blocking_m: number
  /** Distances of the 4 mA and the 20 mA point; falling ones are a level, rising ones a distance output. */
  readonly at4_m: number
  readonly at20_m: number
}
export interface EchoReading {
  /** From the reference plane. */
  readonly distance_m: number
  /** Above the 0 % point; may be negative. */
  readonly level_m: number
  readonly percent: number
  readonly spaceToFull_m: number
  readonly current_mA: number
  readonly inBlocking: boolean
}

/** The usual 4 mA and 20 mA points of both schools. In distance mode a full tank gives 4 mA. */
export const pointsOfMode = (empty_m: number, full_m: number, mode: 'level' | 'distance') =>
  mode === 'level' ? { at4_m: empty_m, at20_m: full_m } : { at4_m: full_m, at20_m: empty_m }

/** What a sensor makes of the distance from its face. */
export function readEcho(s: EchoSetUp, face_m: number): EchoReading {
  const distance_m = face_m - s.offset_m
  const level_m = s.empty_m - distance_m
  return {
    distance_m,
    level_m,
    percent: (100 * level_m) / (s.empty_m - s.full_m),
    spaceToFull_m: distance_m - s.full_m,
    current_mA: currentOfFraction((distance_m - s.at4_m) / (s.at20_m - s.at4_m)),
    inBlocking: face_m < s.blocking_m,
  }
}
/** The nearest point that has to be measured. */
export const nearest_m = (s: EchoSetUp): number => Math.min(s.full_m, s.at4_m, s.at20_m)
/** It lies where the transducer still rings. */
export const fullInBlocking = (s: EchoSetUp): boolean => nearest_m(s) + s.offset_m < s.blocking_m

/** Speed of sound in air, m/s. @see ISO 9613-1 */
export const airSoundSpeed_m_s = (t_C: number): number => 343.2 * Math.sqrt((t_C + 273.15) / 293.15)

/** What a wrong gas temperature does: hotter than set reads short, so too high. */
export function temperatureError(distance_m: number, set_C: number, true_C: number) {
  const indicated_m = (distance_m * airSoundSpeed_m_s(set_C)) / airSoundSpeed_m_s(true_C)
  return { indicated_m, levelError_m: distance_m - indicated_m }
}

const LIGHT_M_S = 299_792_458
/** Free-space wavelength, m. */
export const wavelength_m = (frequency_GHz: number): number => LIGHT_M_S / (frequency_GHz * 1e9)
/** Full −3 dB angle of an antenna, degrees; typical. */
export const beamAngle_deg = (frequency_GHz: number, antenna_m: number): number =>
  (70 * wavelength_m(frequency_GHz)) / antenna_m

/** Reflection where permittivity changes: share of the amplitude and return in dB. */
export function reflection(eps1: number, eps2: number) {
  const gamma = (Math.sqrt(eps1) - Math.sqrt(eps2)) / (Math.sqrt(eps1) + Math.sqrt(eps2))
  return { power: gamma * gamma, dB: 20 * Math.log10(Math.abs(gamma)) }
}
/** Permittivity of a gas at pressure, from its value at 0 °C and 101.325 kPa. */
export const gasPermittivity = (p_kPa: number, t_C: number, reference = 1.00059): number =>
  1 + (reference - 1) * (p_kPa / 101.325) * (273.15 / (t_C + 273.15))
/** True distance of a radar echo in a gas. */
export const trueRadarDistance_m = (vacuum_m: number, eps: number): number => vacuum_m / Math.sqrt(eps)

const half = (beam_deg: number) => Math.tan((beam_deg * Math.PI) / 360)
export const footprint_m = (distance_m: number, beam_deg: number): number => 2 * distance_m * half(beam_deg)
/** Depth at which something at this distance from the axis comes into the beam. */
export const entersBeamAt_m = (lateral_m: number, beam_deg: number): number => lateral_m / half(beam_deg)
