import { robustDeviation } from '../../numeric/median.ts'
import { noiseOf, smallestStep } from '../noise.ts'
import { type Blocks, blockMeans, perSample } from './blocks.ts'
import type { Values } from './finding.ts'
import { selectTerms, type Term } from './select.ts'

/** Steps and drift of a log. */
export interface Levels {
  readonly terms: readonly Term[]
  /** Scatter about a slowly moving value. */
  readonly noise: number
}

const FEWEST_AT_END = 4

/** Variance of a block mean: from the noise of the samples, or from the means themselves where they wander. */
function varianceOf(s: Values, y: Float64Array, b: Blocks, profile: Float64Array, step: number) {
  const { noise, phi } = noiseOf(s.x, perSample(profile, b, s.n))
  const ofSamples = (noise ** 2 * (1 + phi)) / (1 - phi) / b.m
  const apart = (k: number) => {
    const d: number[] = []
    for (let i = 0; i + k < b.N; i++) d.push(((y[i + k] ?? 0) - (y[i] ?? 0)) / (profile[i] ?? 1))
    return robustDeviation(d) ** 2
  }
  const e1 = apart(1)
  const rho = e1 > 0 ? Math.min(0.6, Math.max(0, apart(2) / e1 - 1)) : 0
  const ofMeans = ((e1 / (2 * (1 - rho))) * (1 + rho)) / (1 - rho)
  return { variance: Math.max(ofSamples, ofMeans, (step * step) / (12 * b.m)), noise }
}

/** The sample at which a level changes most within ± two blocks of an edge. */
function sampleNear(x: Float64Array, from: number, to: number): number {
  const L = to - from
  let total = 0
  for (let i = from; i < to; i++) total += x[i] ?? 0
  let [sum, best, at] = [0, -1, from + (L >> 1)]
  for (let i = 1; i < L; i++) {
    sum += x[from + i - 1] ?? 0
    if (i < FEWEST_AT_END || i > L - FEWEST_AT_END) continue
    const gained = ((i * (L - i)) / L) * (sum / i - (total - sum) / (L - i)) ** 2
    if (gained > best) [best, at] = [gained, from + i]
  }
  return at
}

/**
 * Steps and a line in the block means of a log.
 * @param profile - scatter of each block, 1 at its median
 * @param isQuantised - the smallest step bounds how well a mean is known
 */
export function levelsOf(
  s: Values,
  b: Blocks,
  profile: Float64Array,
  isQuantised: boolean,
  c: number,
): Levels {
  const y = blockMeans(s.x, b)
  const { variance, noise } = varianceOf(s, y, b, profile, isQuantised ? smallestStep(s.x) : 0)
  const [start, end] = [s.clock[0] ?? 0, s.clock[s.n - 1] ?? 1]
  const along = s.clock.map((t) => (2 * (t - start)) / (end - start) - 1)
  const terms = selectTerms({
    y,
    weights: profile.map((p) => 1 / p ** 2),
    variance,
    c,
    apart: 2,
    line: end > start ? blockMeans(along, b) : null,
    place: (edge, others) => {
      const [from, to] = [b.edges[Math.max(0, edge - 2)] ?? 0, b.edges[Math.min(b.N, edge + 2)] ?? s.n]
      const sample = sampleNear(explainedAway(s.x, along, others, from, to), 0, to - from) + from
      return { sample, column: shareBehind(sample, b) }
    },
  })
  return { terms, noise }
}

/** Samples from..to − 1 without what other terms explain. */
function explainedAway(
  x: Float64Array,
  along: Float64Array,
  terms: readonly Term[],
  from: number,
  to: number,
): Float64Array {
  return Float64Array.from({ length: to - from }, (_, k) => {
    const i = from + k
    return terms.reduce(
      (left, t) => left - t.coefficient * (t.kind === 'line' ? (along[i] ?? 0) : i >= t.sample ? 1 : 0),
      x[i] ?? 0,
    )
  })
}

/** The share of each block that lies behind a sample. */
const shareBehind = (sample: number, { N, edges }: Blocks): Float64Array =>
  Float64Array.from({ length: N }, (_, i) => {
    const [from, to] = [edges[i] ?? 0, edges[i + 1] ?? 0]
    return (to - Math.min(to, Math.max(from, sample))) / (to - from)
  })
