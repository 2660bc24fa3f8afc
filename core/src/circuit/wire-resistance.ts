const COPPER_OHM_M = 1.7241e-8
const COPPER_PER_K = 0.00393

/** Largest resistance per km at 20 °C by cross-section, IEC 60228: rigid (class 2) and flexible (class 5). */
const IEC_60228: readonly (readonly [mm2: number, class2: number, class5: number])[] = [
  [0.5, 36, 39],
  [0.75, 24.5, 26],
  [1, 18.1, 19.5],
  [1.5, 12.1, 13.3],
  [2.5, 7.41, 7.98],
  [4, 4.61, 4.95],
  [6, 3.08, 3.3],
]

export interface Conductor {
  readonly length: number
  readonly mm2?: number | undefined
  readonly awg?: number | undefined
  readonly ohmPerKm?: number | undefined
  readonly iecClass?: number | 'none' | undefined
  readonly tempC?: number | undefined
}

/** Cross-section of an AWG number, mm². */
export const awgArea_mm2 = (awg: number): number => {
  const d = 0.127 * 92 ** ((36 - awg) / 39)
  return (Math.PI / 4) * d * d
}

/**
 * Resistance per km of one copper conductor at its temperature; null when nothing says how thick it is.
 *
 * The first that is given counts: ohm per km, an IEC 60228 class with its cross-section, the bare
 * cross-section, the AWG number. A given ohm per km is taken as it is, at any temperature.
 */
export function ohmPerKm(c: Conductor): number | null {
  if (c.ohmPerKm !== undefined) return c.ohmPerKm
  const warm = 1 + COPPER_PER_K * ((c.tempC ?? 20) - 20)
  if ((c.iecClass === 2 || c.iecClass === 5) && c.mm2 !== undefined) {
    const row = IEC_60228.find(([mm2]) => Math.abs(mm2 - (c.mm2 ?? 0)) < 1e-9)
    if (row) return (c.iecClass === 2 ? row[1] : row[2]) * warm
  }
  const area = c.mm2 ?? (c.awg === undefined ? null : awgArea_mm2(c.awg))
  return area === null ? null : (COPPER_OHM_M / (area * 1e-6)) * 1000 * warm
}

/** Resistance of one conductor over its length, ohm; at least 1 µΩ, so that a wire of no length still is one. */
export const conductorOhm = (c: Conductor): number => Math.max(1e-6, ((ohmPerKm(c) ?? 0) * c.length) / 1000)
