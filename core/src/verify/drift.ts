import { bisect } from '../numeric/bisect.ts'
import { studentQuantile } from '../statistics/student-t.ts'

/** One calibration of the past: when, and the largest or level error as found and as left, % of span. */
export interface PastCalibration {
  readonly day: number
  readonly asFound_pct: number
  readonly asLeft_pct: number
}
export type Drift =
  | { readonly enough: false; readonly periods: number }
  | {
      readonly enough: true
      readonly periods: number
      /** % of span a day. */
      readonly rate: number
      readonly s: number
      readonly uRate: number
      readonly t: number
      readonly significant: boolean
      /** Days from the last as-left until the tolerance is left, by the central line; null when it never is. */
      readonly central_days: number | null
      /** The same at the edge of the band: the earliest. */
      readonly earliest_days: number | null
      /** Farther than three times the longest period that was seen. */
      readonly extrapolated: boolean
    }

const LEAST = 3
const CLOSE_DAYS = 1e-6
const FARTHEST_DAYS = 36_525

/** Drift per period: as-found minus the as-left before it, never across an adjustment. */
export const periodsOf = (history: readonly PastCalibration[]): { dt: number; d: number }[] =>
  [...history]
    .sort((a, b) => a.day - b.day)
    .flatMap((c, i, all) => {
      const before = all[i - 1]
      return before && c.day > before.day
        ? [{ dt: c.day - before.day, d: c.asFound_pct - before.asLeft_pct }]
        : []
    })

/** Rate through the origin with its band, and when the tolerance will be left. @param a0 - last as-left, % of span */
export function driftOf(periods: readonly { dt: number; d: number }[], a0: number, T: number): Drift {
  const n = periods.length
  if (n < LEAST) return { enough: false, periods: n }
  const tt = periods.reduce((s, p) => s + p.dt * p.dt, 0)
  const rate = periods.reduce((s, p) => s + p.dt * p.d, 0) / tt
  const s = Math.sqrt(periods.reduce((sum, p) => sum + (p.d - rate * p.dt) ** 2, 0) / (n - 1))
  const uRate = s / Math.sqrt(tt)
  const t = studentQuantile(0.975, n - 1)
  const half = (x: number) => t * Math.sqrt(s * s + x * x * uRate * uRate)
  const out = (x: number) => a0 + rate * x + half(x) >= T || a0 + rate * x - half(x) <= -T
  let earliest: number | null = null
  if (out(0)) earliest = 0
  else if (out(FARTHEST_DAYS)) {
    earliest = bisect(out, 0, FARTHEST_DAYS, CLOSE_DAYS)
  }
  const central = rate === 0 ? null : (Math.sign(rate) * T - a0) / rate
  const longest = Math.max(...periods.map((p) => p.dt))
  return {
    enough: true,
    periods: n,
    rate,
    s,
    uRate,
    t,
    significant: Math.abs(rate) > t * uRate,
    central_days: central !== null && central >= 0 ? central : null,
    earliest_days: earliest,
    extrapolated: earliest !== null && earliest > 3 * longest,
  }
}

/** Next interval in whole months from how much of the tolerance was used each time, newest last. */
export function staircase_months(months: number, used: readonly number[], least = 1, most = 60): number {
  const q = used.at(-1) ?? 0
  const before = used.at(-2)
  const factor = q > 1 ? 0.5 : q > 0.8 ? 0.8 : q <= 0.5 && before !== undefined && before <= 0.5 ? 1.25 : 1
  return Math.min(most, Math.max(least, Math.floor(months * factor + 1e-9)))
}
/** The cut that keeps a pair of extension and cut in balance at a reliability. */
export const balancedCut = (reliability: number, extension: number): number =>
  1 - (1 + extension) ** (-reliability / (1 - reliability))
