import { fitLine } from '../../numeric/fit-line.ts'
import { gasViscosity_Pa_s } from '../../media/gas.ts'

const PRESSURES_KPA = [100, 200, 500, 1000, 2000, 3500, 5000] as const
const TEMPERATURES_C = [0, 10, 20, 30, 40] as const
/** Critical flow function of real nitrogen. */
const C_STAR: readonly (readonly number[])[] = [
  [0.68503, 0.68537, 0.68638, 0.68807, 0.69146, 0.69653, 0.70156],
  [0.68499, 0.68529, 0.68618, 0.68766, 0.69063, 0.69506, 0.69942],
  [0.68495, 0.68521, 0.686, 0.68731, 0.68991, 0.69378, 0.69757],
  [0.68491, 0.68514, 0.68584, 0.68699, 0.68928, 0.69266, 0.69596],
  [0.68488, 0.68508, 0.68569, 0.68671, 0.68872, 0.69168, 0.69455],
]
const R_N2 = 8314.462618 / 28.0135
/** Pressure ratio below which nitrogen chokes in a nozzle without diffuser. */
export const CHOKED_RATIO = (2 / 2.4) ** 3.5

const place = (grid: readonly number[], x: number) => {
  const i = Math.max(0, Math.min(grid.length - 2, grid.findIndex((g) => g > x) - 1))
  const [a = 0, b = 1] = [grid[i], grid[i + 1]]
  return { i, f: (x - a) / (b - a) }
}
/** C* of nitrogen, bilinear; null outside the table. */
export function criticalFlowFunction(p0_kPa: number, t0_C: number): number | null {
  if (p0_kPa < 100 || p0_kPa > 5000 || t0_C < 0 || t0_C > 40) return null
  const p = p0_kPa === 5000 ? { i: 5, f: 1 } : place(PRESSURES_KPA, p0_kPa)
  const t = t0_C === 40 ? { i: 3, f: 1 } : place(TEMPERATURES_C, t0_C)
  const at = (j: number, i: number) => C_STAR[j]?.[i] ?? 0
  const row = (j: number) => at(j, p.i) * (1 - p.f) + at(j, p.i + 1) * p.f
  return row(t.i) * (1 - t.f) + row(t.i + 1) * t.f
}

export interface NozzleFlow {
  /** Null where it is not choked: then the pressure behind it decides, and nobody knows the flow. */
  readonly massFlow_g_s: number | null
  readonly Cd: number
  readonly Re: number
  readonly Cstar: number
  readonly choked: boolean
}
/**
 * Nitrogen through a sonic nozzle. Without a certificate the discharge coefficient of a toroidal throat.
 * @param chokedTo - pressure behind it over that before it up to which it is choked; with a diffuser its certificate says 0.8 to 0.9
 * @see ISO 9300
 */
export function nozzleFlow(
  throat_mm: number,
  p0_kPa: number,
  t0_C: number,
  after_kPa: number,
  Cd: number | null,
  chokedTo = CHOKED_RATIO,
): NozzleFlow | null {
  const Cstar = criticalFlowFunction(p0_kPa, t0_C)
  if (Cstar === null) return null
  const T0 = t0_C + 273.15
  const A = (Math.PI * (throat_mm / 1000) ** 2) / 4
  const mu = gasViscosity_Pa_s('nitrogen', T0)
  let cd = Cd ?? 0.99
  let q = 0
  let Re = 0
  for (let i = 0; i < 60; i++) {
    q = (A * cd * Cstar * p0_kPa * 1000) / Math.sqrt(R_N2 * T0)
    Re = (4 * q) / (Math.PI * (throat_mm / 1000) * mu)
    const next = Cd ?? 0.9959 - 2.72 / Math.sqrt(Re)
    if (Math.abs(next - cd) < 1e-14) break
    cd = next
  }
  const choked = after_kPa / p0_kPa <= chokedTo
  return { massFlow_g_s: choked ? q * 1000 : null, Cd: cd, Re, Cstar, choked }
}

export interface NozzlePoint {
  readonly reference: number
  readonly indicated: number
  readonly baseline_pct: number | null
}
/** Each point against its limit; a passing point that has moved by half its limit since the baseline is an alert. */
export function nozzleVerdict(
  points: readonly NozzlePoint[],
  ofReading_pct: number,
  ofFullScale_pct: number,
  fullScale: number,
) {
  return points.map((p) => {
    const deviation_pct = (p.indicated / p.reference - 1) * 100
    const limit_pct = ofReading_pct + (ofFullScale_pct * fullScale) / p.reference
    const passes = Math.abs(deviation_pct) <= limit_pct
    const moved = p.baseline_pct !== null && Math.abs(deviation_pct - p.baseline_pct) > limit_pct / 2
    return {
      deviation_pct,
      limit_pct,
      verdict: !passes ? ('FAIL' as const) : moved ? ('ALERT' as const) : ('PASS' as const),
    }
  })
}

const FRESH_PCT = 20.9
/**
 * Oxygen left in a well-mixed room, %: dC/dt = (20.9 Q − (q + Q) C)/V.
 * @param minutes - Infinity: where it ends
 * @param freshAir_m3_h - ventilation; 0: none
 */
export function oxygenAfter_pct(
  room_m3: number,
  release_m3_h: number,
  minutes: number,
  freshAir_m3_h = 0,
): number {
  const through = release_m3_h + freshAir_m3_h
  const steady = (FRESH_PCT * freshAir_m3_h) / through
  return steady + (FRESH_PCT - steady) * Math.exp((-through * minutes) / 60 / room_m3)
}
/** Leave below this. */
export const OXYGEN_LEAVE_PCT = 19.5
/** Minutes until the room has to be left; null where the fresh air keeps it above. */
export function minutesToLeave(room_m3: number, release_m3_h: number, freshAir_m3_h = 0): number | null {
  const through = release_m3_h + freshAir_m3_h
  const steady = (FRESH_PCT * freshAir_m3_h) / through
  if (steady >= OXYGEN_LEAVE_PCT) return null
  return (-Math.log((OXYGEN_LEAVE_PCT - steady) / (FRESH_PCT - steady)) * room_m3 * 60) / through
}

/** Least squares of deviations over time: slope per unit of time, and when a limit is crossed; null below three points. */
export function driftOf(
  times: readonly number[],
  values: readonly number[],
  limit: number,
): { slope: number; crossesAt: number | null } | null {
  if (times.length < 3 || times.length !== values.length) return null
  const line = fitLine(times.map((t, i) => [t, values[i] ?? 0]))
  return line && { slope: line.slope, crossesAt: line.where(limit) }
}
