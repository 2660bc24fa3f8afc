import { inflation } from '../correlation.ts'
import { risen, type Channel } from '../samples.ts'
import { type ByStretch, byStretchOf } from './by-stretch.ts'
import { type ClocksApart, clocksApart, type LagOfPart } from './clocks.ts'
import { type OnGrid, onGrid } from './common-base.ts'
import { type DifferencesAt, marksJoined } from './difference-plot.ts'
import { lagOf, type Lag } from './lag.ts'
import { type LagSums, lagSumsAdded, lagSumsOf, MOST_LAG, type Origin } from './lag-sums.ts'
import { demingLine } from './line-of-two.ts'
import { pairSumsJoined, spreadOf } from './pair-sums.ts'
import { pairPart, type PairsOfPart } from './parts.ts'

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
  /** Stretches of both are held against each other only where they are of one time with the lag taken out too. */
  readonly atOneTime?: true | undefined
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
  /** Every difference against the mean of both, summed up by marks. */
  readonly plot: readonly DifferencesAt[]
  /** Whether the lag goes away over the time of the logs; null: it does not, or too little tells it. */
  readonly clocks: ClocksApart | null
}

/** Where two logs cannot be compared, the sentence says why. */
export type NotCompared = { readonly says: string; readonly where: 'a' | 'b' | 'maxLag_s' }

const LEAST_PAIRS = 3
/** Points of the common base that are held at once. */
export const MOST_STEPS = 5e6
/** Parts of two logs of which each tells its lag by itself, and points of the common base that one needs. */
const PARTS = 8
const POINTS_OF_PART = 1000

/** The common base of two logs, and how many steps of it the longest lag is. */
export interface Base {
  readonly step_ms: number
  readonly most: number
}

/** The step of two logs: the longer one of their intervals, ms, where none is given. */
export function baseOf(
  interval_ms: readonly [number, number],
  o: Pick<CompareAsked, 'maxLag_s' | 'step_ms'>,
): Base {
  const step_ms = o.step_ms ?? Math.max(...interval_ms)
  return { step_ms, most: Math.round((o.maxLag_s * 1000) / step_ms) }
}

/** The lag of each part that tells one. */
export function lagsOf(
  parts: readonly { readonly at: number; readonly sums: LagSums }[],
  step_ms: number,
): LagOfPart[] {
  return parts.flatMap(({ at, sums }) => {
    const lag = lagOf(sums)
    return lag.ambiguous === null && lag.correlation !== null
      ? [{ at, lag_s: (lag.steps * step_ms) / 1000 }]
      : []
  })
}

/** What two logs amount to, from the pairs of their parts in the order of time and the lag that was taken out. */
export function comparedOf(
  parts: readonly PairsOfPart[],
  lag: Lag,
  clocks: ClocksApart | null,
  { step_ms }: Base,
  o: CompareAsked,
): Compared | NotCompared {
  const pairs = pairSumsJoined(parts.map((p) => p.pairs))
  if (!pairs || pairs.n < LEAST_PAIRS)
    return { says: 'The two logs have hardly a time in common: nothing can be compared.', where: 'b' }
  const spread = spreadOf(pairs)
  const { n, meanD } = spread
  const e = spread.residuals(1, 0)
  const sdDifference = Math.sqrt(e.squares / (n - 1))
  const wider = inflation(e.r1)
  const uDifference = sdDifference * Math.sqrt(wider / n)
  const line = demingLine(spread, o.ratio)
  const wide = Math.sqrt(o.Ua ** 2 + o.Ub ** 2 + 4 * uDifference ** 2)
  const points = parts.map((p) => p.points)
  return {
    n,
    step_ms,
    lag_s: (lag.steps * step_ms) / 1000,
    correlation: lag.correlation,
    ambiguous: lag.ambiguous,
    meanDifference: meanD,
    sdDifference,
    uDifference,
    limits: [meanD - 1.96 * sdDifference, meanD + 1.96 * sdDifference],
    slopeOnMean: spread.smm > 0 ? spread.sdm / spread.smm : null,
    offset: line?.offset ?? null,
    gain: line?.gain ?? null,
    uOffset: line?.uOffset ?? null,
    uGain: line?.uGain ?? null,
    residual: line?.residual ?? null,
    En: wide > 0 ? meanD / wide : null,
    needed_s: o.target === undefined ? null : (wider * ((2 * sdDifference) / o.target) ** 2 * step_ms) / 1000,
    byStretch: points.some((p) => p === null) ? null : byStretchOf(points.flatMap((p) => p ?? [])),
    plot: marksJoined(parts.map((p) => p.marks)),
    clocks,
  }
}

/** The time two series have in common, cut into parts that each can tell a lag; the last one ends it. */
function partsInCommon(a: OnGrid, b: OnGrid, most: number): { from: number; to: number }[] {
  const from = Math.max(a.first, b.first)
  const points = Math.max(0, Math.min(a.first + a.v.length, b.first + b.v.length) - from)
  const count = Math.max(1, Math.min(PARTS, Math.floor(points / Math.max(POINTS_OF_PART, 4 * most))))
  const seam = (k: number) => from + Math.floor((k * points) / count)
  // A lag brings together what is not of the common time: it belongs to the parts at its ends.
  return Array.from({ length: count }, (_, k) => ({
    from: k === 0 ? -Infinity : seam(k),
    to: k === count - 1 ? Infinity : seam(k + 1),
  }))
}

const firstOf = (g: OnGrid) => g.v.find((x) => !Number.isNaN(x)) ?? 0

/** Compares two logs: lag found and taken out, difference, line, En, and by stretches of both standing still. */
export function compareLogs(a: Channel, b: Channel, o: CompareAsked): Compared | NotCompared {
  const [sa, sb] = [risen(a, o.gapFactor), risen(b, o.gapFactor)]
  if (sa.n < 2) return { says: 'The first log has fewer than two samples.', where: 'a' }
  if (sb.n < 2) return { says: 'The second log has fewer than two samples.', where: 'b' }
  const base = baseOf([sa.pace.interval, sb.pace.interval], o)
  const { step_ms, most } = base
  if (most > MOST_LAG) return tooLong(most)
  const points = (s: typeof sa) => ((s.t[s.n - 1] ?? 0) - (s.t[0] ?? 0)) / step_ms
  if (!(Math.max(points(sa), points(sb)) <= MOST_STEPS))
    return { says: 'The step is too small for logs as long as these.', where: 'a' }
  const [onA, onB] = [onGrid(sa, step_ms), onGrid(sb, step_ms)]
  const origin: Origin = { a: firstOf(onA), b: firstOf(onB) }
  const parts = partsInCommon(onA, onB, most).map((part) => ({
    at: ((Math.max(part.from, onB.first) + Math.min(part.to, onB.first + onB.v.length)) / 2) * step_ms,
    sums: lagSumsOf(onA, onB, most, part, origin),
  }))
  const lag = lagOf(lagSumsAdded(parts.map((p) => p.sums)))
  const clocks = clocksApart(lagsOf(parts, step_ms), step_ms / 1000)
  const asked = { ...o, ...(o.atOneTime ? { clocks } : {}) }
  const pairs = pairPart(a, b, { ...asked, step_ms, lag_ms: lag.steps * step_ms, origin })
  return comparedOf([pairs], lag, clocks, base, o)
}

/** What is said where a lag cannot be looked for. */
export const tooLong = (most: number): NotCompared => ({
  says: `A lag of up to ${most} steps would be looked for in logs as long as these: allow less, or a longer step.`,
  where: 'maxLag_s',
})
