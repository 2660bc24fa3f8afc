/** A thermometer clamped on a pipe under insulation, per metre of pipe. */
export interface ClampOnThermometer {
  readonly fluid_C: number
  readonly ambient_C: number
  readonly bore_m: number
  readonly od_m: number
  readonly wall_W_mK: number
  readonly inside_W_m2K: number
  readonly insulation_m: number
  readonly insulation_W_mK: number
  readonly outside_W_m2K: number
}
/** Temperature of the pipe's surface: what is really measured. */
export function surfaceTemperature(c: ClampOnThermometer) {
  const D = c.od_m + 2 * c.insulation_m
  const inside_K_m_W =
    1 / (c.inside_W_m2K * Math.PI * c.bore_m) + Math.log(c.od_m / c.bore_m) / (2 * Math.PI * c.wall_W_mK)
  const outside_K_m_W =
    Math.log(D / c.od_m) / (2 * Math.PI * c.insulation_W_mK) + 1 / (c.outside_W_m2K * Math.PI * D)
  const surface_C = c.fluid_C - ((c.fluid_C - c.ambient_C) * inside_K_m_W) / (inside_K_m_W + outside_K_m_W)
  return { inside_K_m_W, outside_K_m_W, surface_C, error_C: surface_C - c.fluid_C }
}

/** Share of the difference to the head that stays at the tip of a well of this length. */
export function stemShare(
  h_W_m2K: number,
  perimeter_m: number,
  k_W_mK: number,
  area_m2: number,
  length_m: number,
): number {
  const m = Math.sqrt((h_W_m2K * perimeter_m) / (k_W_mK * area_m2))
  return 1 / Math.cosh(m * length_m)
}
