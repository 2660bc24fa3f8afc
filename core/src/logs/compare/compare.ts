import { inflation, neighbourCorrelation } from '../correlation.ts'
import { risen, type Channel } from '../samples.ts'
import { fitLine } from '../../numeric/fit-line.ts'
import { type ByStretch, compareByStretch } from './by-stretch.ts'
import { onGrid, pairsOf } from './common-base.ts'
import { lagOf, type Lag } from './lag.ts'
import { demingLine } from './line-of-two.ts'

export interface CompareAsked {
  readonly maxLag_s: number
  readonly step_ms?: number | undefined
  /** Variance of the error of a by that of b. */
  readonly ratio: number
  /** Expanded uncertainties, k = 2, in the unit of the values. */
  readonly Ua: number
  readonly Ub: number
  readonly tau?: number | undefined
  readonly T?: number | undefined
  readonly gapFactor: number
  /** The half width to which the mean difference shall be known. */
  readonly target?: number | undefined
}

/** Two logs of the same quantity: a installed, b the reference. */
export interface Compared {
  readonly n: number
  readonly step_ms: number
  readonly lag_s: number
  readonly correlation: number | null
  readonly ambiguous: Lag['ambiguous']
  readonly meanDifference: number
  readonly sdDifference: number
  readonly uDifference: number
  readonly limits: readonly [number, number]
  readonly slopeOnMean: number | null
  readonly offset: number | null
  readonly gain: number | null
  readonly uOffset: number | null
  readonly uGain: number | null
  readonly residual: number | null
  readonly En: number | null
  readonly needed_s: number | null
  readonly byStretch: ByStretch | null
}

/** Where two logs cannot be compared, the sentence says why. */
export type NotCompared = { readonly says: string; readonly where: 'a' | 'b' | 'maxLag_s' }

const LEAST_PAIRS = 3
/** Pairs that are multiplied in a second or so. */
const MOST_PAIRS = 1e8

/** Compares two logs: lag found and taken out, difference, line, En, and by stretches of both standing still. */
export function compareLogs(a: Channel, b: Channel, o: CompareAsked): Compared | NotCompared {
  const [sa, sb] = [risen(a, o.gapFactor), risen(b, o.gapFactor)]
  if (sa.n < 2) return { says: 'The first log has fewer than two samples.', where: 'a' }
  if (sb.n < 2) return { says: 'The second log has fewer than two samples.', where: 'b' }
  const step_ms = o.step_ms ?? Math.max(sa.pace.interval, sb.pace.interval)
  const points = (s: typeof sa) => ((s.t[s.n - 1] ?? 0) - (s.t[0] ?? 0)) / step_ms
  if (!(Math.max(points(sa), points(sb)) <= 5e6))
    return { says: 'The step is too small for logs as long as these.', where: 'a' }
  const most = Math.round((o.maxLag_s * 1000) / step_ms)
  if (most * Math.min(points(sa), points(sb)) > MOST_PAIRS)
    return {
      says: `A lag of up to ${most} steps would be looked for in logs as long as these: allow less, or a longer step.`,
      where: 'maxLag_s',
    }
  const onA = onGrid(sa, step_ms)
  const found = lagOf(onA, onGrid(sb, step_ms), most)
  const lag_ms = found.steps * step_ms
  const pairs = pairsOf(onA, onGrid(sb, step_ms, lag_ms))
  const n = pairs.a.length
  if (n < LEAST_PAIRS)
    return { says: 'The two logs have hardly a time in common: nothing can be compared.', where: 'b' }
  const d = Array.from(pairs.a, (x, i) => x - (pairs.b[i] ?? 0))
  const meanDifference = d.reduce((x, y) => x + y, 0) / n
  const e = d.map((x) => x - meanDifference)
  const sdDifference = Math.sqrt(e.reduce((x, y) => x + y * y, 0) / (n - 1))
  const wider = inflation(neighbourCorrelation(e))
  const uDifference = sdDifference * Math.sqrt(wider / n)
  const line = demingLine(pairs.a, pairs.b, o.ratio)
  const wide = Math.sqrt(o.Ua ** 2 + o.Ub ** 2 + 4 * uDifference ** 2)
  const onMean = fitLine(d.map((y, i) => [((pairs.a[i] ?? 0) + (pairs.b[i] ?? 0)) / 2, y] as const))
  return {
    n,
    step_ms,
    lag_s: lag_ms / 1000,
    correlation: found.correlation,
    ambiguous: found.ambiguous,
    meanDifference,
    sdDifference,
    uDifference,
    limits: [meanDifference - 1.96 * sdDifference, meanDifference + 1.96 * sdDifference],
    slopeOnMean: onMean?.slope ?? null,
    offset: line?.offset ?? null,
    gain: line?.gain ?? null,
    uOffset: line?.uOffset ?? null,
    uGain: line?.uGain ?? null,
    residual: line?.residual ?? null,
    En: wide > 0 ? meanDifference / wide : null,
    needed_s: o.target === undefined ? null : (wider * ((2 * sdDifference) / o.target) ** 2 * step_ms) / 1000,
    byStretch:
      o.tau === undefined || o.T === undefined
        ? null
        : compareByStretch(a, b, { tau_s: o.tau, T: o.T, Ua: o.Ua, Ub: o.Ub, gapFactor: o.gapFactor }),
  }
}
