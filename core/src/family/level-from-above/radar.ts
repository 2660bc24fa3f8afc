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
