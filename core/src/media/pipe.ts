import { deviation } from '../numeric/deviation.ts'
import { mean } from '../numeric/mean.ts'
import { PIPE_SIZES } from './pipe-sizes-table.ts'

/** Outside diameter and wall of a steel pipe by size and schedule, mm; null for a pair that is not in the table. */
export function scheduledPipe(nps: string, schedule: string): { od_mm: number; wall_mm: number } | null {
  const row = PIPE_SIZES.find((s) => s.nps === nps)?.schedules.find(([name]) => name === schedule)
  return row ? { od_mm: row[1], wall_mm: row[2] } : null
}

export interface TapeReading {
  readonly circumference_mm: number
  /** Thickness of a plain tape; 0 for a diameter tape, which is compensated. */
  readonly tape_mm: number
  readonly paint_mm: number
  readonly film_mm: number
}
/** Outside diameter from a tape wound round the pipe, mm. The tape reads along its middle. */
export const odFromCircumference_mm = (r: TapeReading): number =>
  r.circumference_mm / Math.PI - r.tape_mm - 2 * (r.paint_mm + r.film_mm)

export interface WallGauge {
  readonly readings_mm: readonly number[]
  readonly cSet_m_s: number
  readonly cMaterial_m_s: number
  readonly wall_C: number
  readonly calibrated_C: number
  /** Paint under a single-echo gauge, mm; 0 on bare metal or with echo-to-echo. */
  readonly paint_mm: number
  readonly cPaint_m_s: number
}
export interface WallMean {
  readonly wall_mm: number
  readonly s_mm: number
  readonly u_mm: number
  readonly spread_pct: number
}
/** Thickness falls as sound slows: 1 % per 55 K for steel, typical. */
const PER_K = 5500

/** Mean wall from gauge readings round the pipe, corrected for material, temperature and paint. */
export function wallFromGauge(g: WallGauge): WallMean {
  const factor = (g.cMaterial_m_s / g.cSet_m_s) * (1 - (g.wall_C - g.calibrated_C) / PER_K)
  const walls = g.readings_mm.map((w) => (w - (g.paint_mm * g.cSet_m_s) / g.cPaint_m_s) * factor)
  const n = walls.length
  const wall_mm = mean(walls)
  const s = deviation(walls)
  return {
    wall_mm,
    s_mm: s,
    u_mm: s / Math.sqrt(n),
    spread_pct: (100 * (Math.max(...walls) - Math.min(...walls))) / wall_mm,
  }
}

export interface Bore {
  readonly id_mm: number
  readonly area_m2: number
  readonly volume_L_per_m: number
}
/** Bore inside wall and liner; null when nothing is left. */
export function bore(od_mm: number, wall_mm: number, liner_mm: number): Bore | null {
  const id_mm = od_mm - 2 * (wall_mm + liner_mm)
  if (!(id_mm > 0)) return null
  const area_m2 = (Math.PI * (id_mm / 1000) ** 2) / 4
  return { id_mm, area_m2, volume_L_per_m: area_m2 * 1000 }
}
