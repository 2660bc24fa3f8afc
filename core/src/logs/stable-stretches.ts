import { inflation, neighbourCorrelation } from './correlation.ts'
import { risen, type Channel, type Series } from './samples.ts'

/** A stretch over which a value stands still: times in ms, slope per second, the rest in the unit of the values. */
export interface Stretch {
  readonly from: number
  readonly to: number
  readonly n: number
  readonly mean: number
  readonly sd: number
  readonly slope: number
  /** As if neighbours were independent. */
  readonly uA: number
  /** With the likeness of neighbours: the one for comparisons. */
  readonly uMean: number
}

const LEAST_SAMPLES = 10

/** Sums up to each sample, of which the line through any stretch follows at once. */
function sumsOf({ n, t, v }: Series) {
  const [t1, v1] = [t[0] ?? 0, v[0] ?? 0]
  const sums = Array.from({ length: 5 }, () => new Float64Array(n + 1))
  const [sx, sy, sxx, sxy, syy] = sums as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ]
  for (let i = 0; i < n; i++) {
    const x = ((t[i] ?? 0) - t1) / 1000
    const y = (v[i] ?? 0) - v1
    sx[i + 1] = (sx[i] ?? 0) + x
    sy[i + 1] = (sy[i] ?? 0) + y
    sxx[i + 1] = (sxx[i] ?? 0) + x * x
    sxy[i + 1] = (sxy[i] ?? 0) + x * y
    syy[i + 1] = (syy[i] ?? 0) + y * y
  }
  /** Line through samples i to j, both included. */
  return (i: number, j: number) => {
    const n_ = j - i + 1
    const part = (s: Float64Array) => (s[j + 1] ?? 0) - (s[i] ?? 0)
    const [mx, my] = [part(sx) / n_, part(sy) / n_]
    const xx = part(sxx) - n_ * mx * mx
    const xy = part(sxy) - n_ * mx * my
    const yy = part(syy) - n_ * my * my
    const slope = xx > 0 ? xy / xx : 0
    const sd = Math.sqrt(Math.max(0, yy - slope * xy) / Math.max(1, n_ - 2))
    return { n: n_, mean: v1 + my, meanX: mx, slope, sd }
  }
}

/**
 * Stretches over which a channel stands still by the rule of trimming: at least ten samples and three time
 * constants, drift at most a tenth of the tolerance, noise averaged to a twentieth of it. From the first sample on,
 * each as long as it goes; never over a gap.
 * @param tau_s - time constant of the device, s
 * @param T - tolerance in the unit of the values
 */
export function stableStretches(
  channel: Channel,
  tau_s: number,
  T: number,
  gapFactor = 5,
  leastSamples = LEAST_SAMPLES,
): { readonly stretches: readonly Stretch[]; readonly seconds: number } {
  const s = risen(channel, gapFactor)
  const lineOf = sumsOf(s)
  const at = (i: number) => s.t[i] ?? 0
  const lasts_s = (i: number, j: number) => (at(j) - at(i)) / 1000
  const isStable = (i: number, j: number) => {
    const { n, slope, sd } = lineOf(i, j)
    return Math.abs(slope) * lasts_s(i, j) <= 0.1 * T && sd / Math.sqrt(n) <= 0.05 * T
  }
  // The last sample of the part without a gap that each sample lies in.
  const partEnd = new Int32Array(s.n)
  for (let i = s.n - 1; i >= 0; i--)
    partEnd[i] = i === s.n - 1 || at(i + 1) - at(i) > s.pace.gapAbove ? i : (partEnd[i + 1] ?? i)
  const stretches: Stretch[] = []
  let [seconds, i, j] = [0, 0, 0]
  while (i < s.n) {
    const end = partEnd[i] ?? i
    j = Math.max(j, i + leastSamples - 1)
    while (j <= end && lasts_s(i, j) < 3 * tau_s) j++
    if (j > end || !isStable(i, j)) {
      i++
      continue
    }
    while (j < end && isStable(i, j + 1)) j++
    stretches.push(stretchOf(s, i, j, lineOf(i, j)))
    seconds += lasts_s(i, j)
    i = j + 1
  }
  return { stretches, seconds }
}

function stretchOf(s: Series, i: number, j: number, line: ReturnType<ReturnType<typeof sumsOf>>): Stretch {
  const t1 = s.t[0] ?? 0
  const e = new Float64Array(line.n)
  for (let k = 0; k < line.n; k++)
    e[k] = (s.v[i + k] ?? 0) - line.mean - line.slope * (((s.t[i + k] ?? 0) - t1) / 1000 - line.meanX)
  const uA = line.sd / Math.sqrt(line.n)
  return {
    from: s.t[i] ?? 0,
    to: s.t[j] ?? 0,
    n: line.n,
    mean: line.mean,
    sd: line.sd,
    slope: line.slope,
    uA,
    uMean: uA * Math.sqrt(inflation(neighbourCorrelation(e))),
  }
}
