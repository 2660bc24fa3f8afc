import { deviation } from '../numeric/deviation.ts'
import { mean } from '../numeric/mean.ts'
import { fitLine } from '../numeric/fit-line.ts'
import { coverageFactor, studentQuantile } from '../statistics/student-t.ts'

/** Normalised error of two results with their expanded uncertainties; they agree when |En| ≤ 1. */
export function normalisedError(x: number, xRef: number, U: number, URef: number) {
  const width = Math.hypot(U, URef)
  const En = width > 0 ? (x - xRef) / width : x === xRef ? 0 : Infinity
  return { En, agrees: Math.abs(En) <= 1 }
}

/** Mean of repeated runs with its uncertainty; uB is what does not show in the scatter. */
export function repeatedRuns(xs: readonly number[], uB: number) {
  const n = xs.length
  const s = deviation(xs)
  const uA = s / Math.sqrt(n)
  const uc = Math.hypot(uA, uB)
  const nuEff = uA > 0 ? uc ** 4 / (uA ** 4 / (n - 1)) : Infinity
  const k = coverageFactor(nuEff)
  return { mean: mean(xs), s, uA, uc, nuEff, k, U: k * uc }
}

/** The one value that stands apart, two-sided at 5 %; at most one is flagged, and it needs a physical reason. */
export function grubbs(xs: readonly number[]) {
  const n = xs.length
  const middle = mean(xs)
  const s = deviation(xs)
  const at = xs.reduce((b, x, i) => (Math.abs(x - middle) > Math.abs((xs[b] ?? 0) - middle) ? i : b), 0)
  const G = s > 0 ? Math.abs((xs[at] ?? 0) - middle) / s : 0
  const t = studentQuantile(1 - 0.05 / (2 * n), n - 2)
  const critical = ((n - 1) / Math.sqrt(n)) * Math.sqrt((t * t) / (n - 2 + t * t))
  return { G, critical, outlier: G > critical ? at : null }
}

export interface CurvePoint {
  readonly at: number
  readonly error: number
}
export interface BaselinePoint {
  readonly at: number
  /** Error of the baseline here; null outside its points: nothing is extrapolated. */
  readonly baseline: number | null
  readonly delta: number | null
  readonly En: number | null
}
/** Errors now against a baseline certificate, point by point. */
export function againstBaseline(
  certificate: readonly CurvePoint[],
  now: readonly CurvePoint[],
  U_certificate: number,
  U_now: number,
): { points: BaselinePoint[]; agrees: boolean } {
  const sorted = [...certificate].sort((a, b) => a.at - b.at)
  const at = (x: number): number | null => {
    const i = sorted.findIndex((p, k) => p.at <= x && x <= (sorted[k + 1]?.at ?? -Infinity))
    const [a, b] = [sorted[i], sorted[i + 1]]
    if (!a || !b) return null
    return a.error + ((b.error - a.error) * (x - a.at)) / (b.at - a.at)
  }
  const points = now.map((p): BaselinePoint => {
    const baseline = at(p.at)
    if (baseline === null) return { at: p.at, baseline, delta: null, En: null }
    const delta = p.error - baseline
    return { at: p.at, baseline, delta, En: delta / Math.hypot(U_certificate, U_now) }
  })
  return { points, agrees: points.every((p) => p.En !== null && Math.abs(p.En) <= 1) }
}

const METRO =
  'lrv urv unit transfer table cutoff sensorTrim outputTrim meterFactor kFactor zeroOffset density flowDirection'
const DYNAMIC = 'damping filter averaging'
const SAFETY = 'alarmDirection alarmCurrent satLow satHigh writeProtect'
const INFO = 'tag descriptor message date contact'
export type SettingClass = 'METRO' | 'DYNAMIC' | 'SAFETY' | 'INFO'
/** What a setting touches; an unknown one counts as touching the measurement. */
export function classOfSetting(key: string): SettingClass {
  const within = (list: string) => list.split(' ').includes(key)
  if (within(METRO)) return 'METRO'
  return within(DYNAMIC) ? 'DYNAMIC' : within(SAFETY) ? 'SAFETY' : within(INFO) ? 'INFO' : 'METRO'
}
type Configuration = Readonly<Record<string, unknown>>
/** Whether results before and after can be compared: what was changed since the last verification. */
export function configurationDifference(before: Configuration, after: Configuration) {
  const same = (a: unknown, b: unknown): boolean =>
    typeof a === 'number' && typeof b === 'number'
      ? Math.abs(a - b) <= 1e-6 * Math.max(Math.abs(a), Math.abs(b))
      : JSON.stringify(a) === JSON.stringify(b)
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])]
  const changed = keys
    .filter((k) => !same(before[k], after[k]))
    .map((key) => ({ key, class: classOfSetting(key), before: before[key], after: after[key] }))
  const has = (c: SettingClass) => changed.some((x) => x.class === c)
  const verdict: 'COMPARABLE' | 'REVIEW' | 'NOT_COMPARABLE' = has('METRO')
    ? 'NOT_COMPARABLE'
    : has('SAFETY') || has('DYNAMIC')
      ? 'REVIEW'
      : 'COMPARABLE'
  return { changed, verdict }
}

/** Slope of mean deviations over years; needs three. */
export function baselineTrend(years: readonly number[], deltas: readonly number[]) {
  const n = years.length
  if (n < 3 || n !== deltas.length) return null
  const line = fitLine(years.map((x, i) => [x, deltas[i] ?? 0]))
  if (!line) return null
  const { slope, scatter, sxx } = line
  const half = (studentQuantile(0.975, n - 2) * scatter) / Math.sqrt(sxx)
  return { slope, half, significant: Math.abs(slope) > half }
}
