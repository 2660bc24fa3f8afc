const STEEL_WEIGHTS_KG_M3 = 8000

export interface Catch {
  readonly indicated_kg: number
  readonly seconds: number
  readonly density_kg_m3: number
  readonly air_kg_m3: number
  readonly uMass_kg: number
  /** Start and stop within ± this, rectangular, s. */
  readonly halfTime_s: number
  readonly uDensity_pct: number
}
/** Timed catch on a scale, corrected for the air's buoyancy. */
export function timedCatch(c: Catch) {
  const mass_kg =
    (c.indicated_kg * (1 - c.air_kg_m3 / STEEL_WEIGHTS_KG_M3)) / (1 - c.air_kg_m3 / c.density_kg_m3)
  const u_pct = Math.hypot(
    (c.uMass_kg / mass_kg) * 100,
    (c.halfTime_s / Math.sqrt(3) / c.seconds) * 100,
    c.uDensity_pct,
  )
  return { mass_kg, flow_m3_h: (mass_kg / c.density_kg_m3 / c.seconds) * 3600, u_pct, U_pct: 2 * u_pct }
}

/** Volume of a vertical cylinder between two levels, m³. */
export const verticalVolume_m3 = (diameter_m: number, from_m: number, to_m: number): number =>
  (Math.PI / 4) * diameter_m ** 2 * Math.abs(from_m - to_m)
/** Volume below a level in a horizontal cylinder with flat ends, m³. */
export function horizontalVolume_m3(diameter_m: number, length_m: number, level_m: number): number {
  const R = diameter_m / 2
  const h = Math.max(0, Math.min(diameter_m, level_m))
  return length_m * (R * R * Math.acos((R - h) / R) - (R - h) * Math.sqrt(Math.max(0, 2 * R * h - h * h)))
}
/** Meter against reference: error, and whether it is within both uncertainties. */
export function compareFlow(meter: number, reference: number, uMeter_pct: number, uReference_pct: number) {
  const error_pct = ((meter - reference) / reference) * 100
  const allowed = Math.hypot(uMeter_pct, uReference_pct)
  return { error_pct, En: allowed === 0 ? null : error_pct / allowed, agrees: Math.abs(error_pct) <= allowed }
}
/** Relative standard uncertainty of a draw-down from those of the diameter and of each level, %. */
export const drawDownUncertainty_pct = (
  diameter_m: number,
  uDiameter_m: number,
  drop_m: number,
  uLevel_m: number,
): number => 100 * Math.hypot((2 * uDiameter_m) / diameter_m, (Math.SQRT2 * uLevel_m) / drop_m)
