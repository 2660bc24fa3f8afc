/** Standard gravity, m/s². */
export const GRAVITY_M_S2 = 9.80665

/** Taps, transmitter and densities of a differential level. Elevations upwards from one datum, m; kg/m³. */
export interface DpLevel {
  readonly lowerTap_m: number
  readonly upperTap_m: number
  readonly transmitter_m: number
  readonly density: number
  readonly vapourDensity: number
  /** Fill of the line or capillary on the high side and on the low side. */
  readonly highFill: number
  readonly lowFill: number
  readonly gravity?: number
}

/** Differential pressure at a level between the taps, Pa. */
export function differentialAt_Pa(d: DpLevel, level_m: number): number {
  const { lowerTap_m: zL, upperTap_m: zU, transmitter_m: zT } = d
  return (
    (d.gravity ?? GRAVITY_M_S2) *
    (d.density * (level_m - zL) +
      d.vapourDensity * (zU - level_m) +
      d.highFill * (zL - zT) -
      d.lowFill * (zU - zT))
  )
}

export type ZeroShift = 'SUPPRESSED' | 'ELEVATED' | 'NONE'
/** Range of a differential level; zero suppression is an LRV above zero. @see ANSI/ISA-51.1 */
export function dpRange(d: DpLevel, zero_m: number, full_m: number) {
  const lrv_Pa = differentialAt_Pa(d, zero_m)
  const urv_Pa = differentialAt_Pa(d, full_m)
  const shift: ZeroShift = Math.abs(lrv_Pa) < 1e-9 ? 'NONE' : lrv_Pa > 0 ? 'SUPPRESSED' : 'ELEVATED'
  return { lrv_Pa, urv_Pa, span_Pa: urv_Pa - lrv_Pa, shift }
}

/** Level that is indicated when the density is not the one counted with; fills unchanged, no vapour. */
export const indicatedLevel_m = (
  lowerTap_m: number,
  level_m: number,
  density: number,
  counted: number,
): number => lowerTap_m + ((level_m - lowerTap_m) * density) / counted

/** Differential of two liquids over one another in a vessel that is always full above the upper tap, Pa. */
export function interfaceAt_Pa(
  d: {
    readonly lower: number
    readonly upper: number
    readonly fill: number
    readonly lowerTap_m: number
    readonly upperTap_m: number
    readonly gravity?: number
  },
  interface_m: number,
): number {
  return (
    (d.gravity ?? GRAVITY_M_S2) *
    (d.lower * (interface_m - d.lowerTap_m) +
      d.upper * (d.upperTap_m - interface_m) -
      d.fill * (d.upperTap_m - d.lowerTap_m))
  )
}

/** Pressure at the tap from what a transmitter below or above it reads through a liquid-filled line, Pa. */
export const pressureAtTap_Pa = (
  reading_Pa: number,
  density: number,
  tapAbove_m: number,
  gravity: number = GRAVITY_M_S2,
): number => reading_Pa - density * gravity * tapAbove_m
