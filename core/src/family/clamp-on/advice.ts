/** Traverses and sensor frequency by bore and fluid, and straight run. All typical. */
export interface SensorAdvice {
  readonly traverses: 1 | 2 | 4
  readonly frequency_MHz: number
  /** Length of the sensor along the pipe; null where only the supplier knows it. */
  readonly footprint_mm: number | null
  readonly says: string
}
const FREQUENCIES = [4, 2, 1, 0.5, 0.3, 0.2, 0.1] as const
const FOOTPRINT_MM: Readonly<Record<number, number>> = { 4: 20, 2: 35, 1: 60, 0.5: 100 }
/** Thickest wall by frequency, mm: about ten shear wavelengths of steel. */
const WALL_MM: Readonly<Record<number, number>> = { 4: 8, 2: 16, 1: 32, 0.5: 65 }

/** About ten shear wavelengths of steel, mm: a thicker wall asks for a lower frequency. Between the table's by 1/f. */
export const thickestWall_mm = (frequency_MHz: number): number => WALL_MM[frequency_MHz] ?? 32 / frequency_MHz
/** Length of a sensor along the pipe by its frequency, mm; null where only the supplier knows it. */
export const usualLength_mm = (frequency_MHz: number): number | null => FOOTPRINT_MM[frequency_MHz] ?? null

/** Null for gas in a bore below 50 mm: no sensor serves. */
export function adviseSensor(
  id_mm: number,
  wall_mm: number,
  fluid: 'liquid' | 'gas',
  attenuating: boolean,
): SensorAdvice | null {
  if (fluid === 'gas' && id_mm <= 50) return null
  const gas = fluid === 'gas'
  let frequency: number = gas
    ? id_mm <= 100
      ? 0.5
      : id_mm <= 400
        ? 0.2
        : 0.1
    : id_mm <= 50
      ? 4
      : id_mm <= 100
        ? 2
        : id_mm <= 400
          ? 1
          : 0.5
  let traverses: 1 | 2 | 4 = gas ? (id_mm <= 200 ? 2 : 1) : id_mm <= 50 ? 4 : id_mm <= 400 ? 2 : 1
  const lower = (f: number): number =>
    FREQUENCIES[Math.min(FREQUENCIES.length - 1, FREQUENCIES.findIndex((x) => x === f) + 1)] ?? f
  const why: string[] = [`bore ${id_mm.toFixed(0)} mm`]
  while (wall_mm > (WALL_MM[frequency] ?? Infinity)) {
    frequency = lower(frequency)
    why.push('thick wall, next lower frequency')
  }
  if (attenuating) {
    traverses = traverses === 4 ? 2 : 1
    frequency = lower(frequency)
    why.push('attenuating fluid or wall: half the traverses, next lower frequency')
  }
  return {
    traverses,
    frequency_MHz: frequency,
    footprint_mm: FOOTPRINT_MM[frequency] ?? null,
    says: `${traverses === 1 ? 'Direct, one traverse' : `${traverses} traverses, same side`} at ${frequency} MHz: ${why.join('; ')}.`,
  }
}

/** Upstream disturbances: diameters wanted for a liquid, and the error model A·exp(−x/B), %. */
export const DISTURBANCES = {
  none: { title: 'none known', wanted: 10, A: 0, B: 10 },
  bend: { title: 'single 90° bend', wanted: 10, A: 8, B: 9 },
  twoBends: { title: 'two bends, same plane', wanted: 25, A: 10, B: 10 },
  twoBendsTwisted: { title: 'two bends, different planes', wanted: 40, A: 14, B: 16 },
  tee: { title: 'tee, flow from the branch', wanted: 30, A: 10, B: 12 },
  reducer: { title: 'reducer', wanted: 10, A: 4, B: 8 },
  expander: { title: 'expander', wanted: 30, A: 10, B: 12 },
  openValve: { title: 'full-bore valve, open', wanted: 10, A: 3, B: 8 },
  controlValve: { title: 'throttling or control valve', wanted: 50, A: 16, B: 16 },
  pump: { title: 'pump', wanted: 50, A: 16, B: 18 },
} as const
export type Disturbance = keyof typeof DISTURBANCES

export interface StraightRun {
  readonly upstream_D: number
  readonly downstream_D: number
  readonly wanted_D: number
  /** Extra uncertainty, ± %; never a correction. */
  readonly error_pct: number
}
/** What a short straight run costs. @param averaged - two paths at 90°, or a reflect pair in both planes. */
export function straightRun(
  disturbances: readonly Disturbance[],
  upstream_D: number,
  downstream_D: number,
  fluid: 'liquid' | 'gas',
  averaged: boolean,
): StraightRun {
  const errors = disturbances
    .map((d) => DISTURBANCES[d].A * Math.exp(-upstream_D / DISTURBANCES[d].B))
    .sort((a, b) => b - a)
  const short = downstream_D < 5 ? (5 - downstream_D) / 5 : 0
  const error = (errors[0] ?? 0) + 0.5 * (errors[1] ?? 0) + short
  return {
    upstream_D,
    downstream_D,
    wanted_D: Math.max(fluid === 'gas' ? 20 : 10, ...disturbances.map((d) => DISTURBANCES[d].wanted)),
    error_pct: averaged ? error / 2 : error,
  }
}

/** Sound that passes two faces between wall and fluid, dB, and the fluid's impedance, Rayl. */
export function faceLoss(
  wallImpedance: number,
  density_kg_m3: number,
  c_m_s: number,
): { impedance: number; dB: number } {
  const Z = density_kg_m3 * c_m_s
  const T = (4 * wallImpedance * Z) / (wallImpedance + Z) ** 2
  return { impedance: Z, dB: 2 * 10 * Math.log10(T) }
}

/** Two paths at right angles: mean, and how far they part. */
export function twoPaths(
  v1: number,
  v2: number,
): { mean_m_s: number; asymmetry_pct: number; verdict: 'OK' | 'WARN' | 'UNCERTAIN' } {
  const mean = (v1 + v2) / 2
  const asymmetry = mean === 0 ? 0 : ((v1 - v2) / mean) * 100
  const size = Math.abs(asymmetry)
  return {
    mean_m_s: mean,
    asymmetry_pct: asymmetry,
    verdict: size > 15 ? 'UNCERTAIN' : size > 5 ? 'WARN' : 'OK',
  }
}
