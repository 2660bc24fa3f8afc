import { percentileOf } from '../numeric/median.ts'
import { inflation, neighbourCorrelation } from './correlation.ts'
import { noiseOf } from './noise.ts'
import { type Channel, risen } from './samples.ts'
import { theilSen } from './theil-sen.ts'

export interface Histogram {
  readonly start: number
  readonly width: number
  readonly counts: readonly number[]
}

/** What a channel, or a part of it, amounts to. Values in its unit, times in ms, slopes per hour. */
export interface LogStatistics {
  readonly n: number
  readonly nulls: number
  /** Duplicates and backwards samples, left out here. */
  readonly left: number
  readonly interval: number
  readonly gaps: number
  readonly covered_s: number
  readonly mean: number
  readonly sd: number
  readonly min: number
  readonly max: number
  /** Mean over time by trapezoids, gaps left out; null where no time is covered. */
  readonly timeMean: number | null
  readonly noiseDiff: number
  readonly phi: number
  readonly noise: number
  readonly r1: number
  readonly nEff: number
  readonly uMean: number
  readonly slope: number | null
  readonly uSlope: number | null
  readonly residual: number | null
  readonly theilSen: number | null
  readonly percentiles: readonly number[]
  readonly histogram?: Histogram
  readonly from: number
  readonly to: number
}

const MS_AN_HOUR = 3_600_000

function histogramOf(sorted: Float64Array, bins: number): Histogram {
  const [start, end] = [sorted[0] ?? 0, sorted.at(-1) ?? 0]
  const width = (end - start) / bins
  const counts = new Array<number>(bins).fill(0)
  for (const x of sorted) {
    const i = width > 0 ? Math.min(bins - 1, Math.floor((x - start) / width)) : 0
    counts[i] = (counts[i] ?? 0) + 1
  }
  return { start, width, counts }
}

/**
 * Statistics of a channel: means with the uncertainty that neighbours' likeness leaves, noise, slope.
 * @param percentiles - in %
 * @param bins - of the histogram; 0: none
 * @returns null where there is no sample
 */
export function statisticsOf(
  channel: Channel,
  gapFactor = 5,
  percentiles: readonly number[] = [5, 50, 95],
  bins = 0,
): LogStatistics | null {
  const { n, t, v, pace, nulls, left } = risen(channel, gapFactor)
  const [t1, v1] = [t[0], v[0]]
  if (t1 === undefined || v1 === undefined) return null
  let [sum, sumT] = [0, 0]
  for (let i = 0; i < n; i++) {
    sum += (v[i] ?? 0) - v1
    sumT += (t[i] ?? 0) - t1
  }
  const [m, mt] = [sum / n, sumT / n]
  const e = new Float64Array(n)
  let [squares, sxx, sxy, gaps, covered, area] = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < n; i++) {
    const y = (v[i] ?? 0) - v1 - m
    const x = (t[i] ?? 0) - t1 - mt
    e[i] = y
    squares += y * y
    sxx += x * x
    sxy += x * y
    if (i === 0) continue
    const d = (t[i] ?? 0) - (t[i - 1] ?? 0)
    if (d > pace.gapAbove) gaps++
    else {
      covered += d
      area += (d * (y + (e[i - 1] ?? 0))) / 2
    }
  }
  const sd = n > 1 ? Math.sqrt(squares / (n - 1)) : 0
  const r1 = neighbourCorrelation(e)
  const sorted = Float64Array.from(v).sort()
  const line = lineOf(t, e, t1 + mt, sxx, sxy)
  return {
    n,
    nulls,
    left,
    interval: pace.interval,
    gaps,
    covered_s: covered / 1000,
    mean: v1 + m,
    sd,
    min: sorted[0] ?? 0,
    max: sorted.at(-1) ?? 0,
    timeMean: covered > 0 ? v1 + m + area / covered : null,
    ...noiseOf(v),
    r1,
    nEff: n / inflation(r1),
    uMean: sd * Math.sqrt(inflation(r1) / n),
    ...line,
    theilSen: n > 1 ? theilSen(t, v) * MS_AN_HOUR : null,
    percentiles: percentiles.map((p) => percentileOf(sorted, p)),
    ...(bins > 0 ? { histogram: histogramOf(sorted, bins) } : {}),
    from: t1,
    to: t[n - 1] ?? t1,
  }
}

function lineOf(t: Float64Array, e: Float64Array, meanT: number, sxx: number, sxy: number) {
  const n = t.length
  if (n < 3 || !(sxx > 0)) return { slope: null, uSlope: null, residual: null }
  const slope = sxy / sxx
  const off = new Float64Array(n)
  let squares = 0
  for (let i = 0; i < n; i++) {
    off[i] = (e[i] ?? 0) - slope * ((t[i] ?? 0) - meanT)
    squares += (off[i] ?? 0) ** 2
  }
  const residual = Math.sqrt(squares / (n - 2))
  const uSlope = (residual / Math.sqrt(sxx)) * Math.sqrt(inflation(neighbourCorrelation(off)))
  return { slope: slope * MS_AN_HOUR, uSlope: uSlope * MS_AN_HOUR, residual }
}
