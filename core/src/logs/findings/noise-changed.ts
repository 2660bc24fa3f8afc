import { median, robustDeviation } from '../../numeric/median.ts'
import type { Blocks } from './blocks.ts'
import type { JudgeSettings, LogFinding, Values } from './finding.ts'
import { selectTerms } from './select.ts'

const FEWEST_DIFFERENCES = 8
const FEWEST_BLOCKS = 4

export interface NoiseProfile {
  readonly found: readonly LogFinding[]
  /** Scatter of each block, 1 at its median. */
  readonly profile: Float64Array
}

/**
 * Where the scatter of a log becomes another one.
 * @param dust - what is no scatter but what computing leaves, in the unit of the values
 */
export function noiseChanged(
  s: Values,
  blocks: Blocks,
  limits: readonly number[],
  { cNoise, noiseRatio }: JudgeSettings,
  dust: number,
): NoiseProfile {
  const { N, m, edges } = blocks
  const even: NoiseProfile = { found: [], profile: new Float64Array(N).fill(1) }
  const Z = Float64Array.from({ length: N }, (_, b) => {
    let [sum, count] = [0, 0]
    for (let i = Math.max(1, edges[b] ?? 0); i < (edges[b + 1] ?? 0); i++) {
      const [x, before] = [s.x[i] ?? 0, s.x[i - 1] ?? 0]
      if (limits.includes(x) || limits.includes(before)) continue
      sum += (x - before) ** 2
      count++
    }
    return count >= FEWEST_DIFFERENCES && sum > 0 ? Math.log(sum / count) : NaN
  })
  const told = Array.from({ length: N }, (_, b) => b).filter((b) => !Number.isNaN(Z[b]))
  if (told.length < 2 * FEWEST_BLOCKS) return even
  const y = Float64Array.from(told, (b) => Z[b] ?? 0)
  const steps = Array.from(y.subarray(1), (z, i) => z - (y[i] ?? 0))
  const terms = selectTerms({
    y,
    weights: new Float64Array(y.length).fill(1),
    variance: Math.max(3 / m, robustDeviation(steps) ** 2 / 2),
    c: cNoise,
    apart: FEWEST_BLOCKS,
    line: null,
    place: (edge) => ({
      sample: edges[told[edge] ?? 0] ?? 0,
      column: Float64Array.from(y, (_, i) => (i >= edge ? 1 : 0)),
    }),
  })
  if (terms.length === 0) return even
  const cuts = terms.map((t) => t.edge).sort((a, b) => a - b)
  const bounds = [0, ...cuts, y.length]
  const levels = bounds.slice(1).map((end, k) => {
    // The middle one: a block in which a level changed scatters no more than the others.
    return Math.sqrt(Math.exp(median(y.subarray(bounds[k] ?? 0, end))) / 2)
  })
  const found = cuts.flatMap((cut, k): LogFinding[] => {
    const [before = 0, after = 0] = [levels[k], levels[k + 1]]
    const ratio = after / before
    return Math.max(ratio, 1 / ratio) < noiseRatio || Math.max(before, after) < dust
      ? []
      : [
          {
            code: 'NOISE_CHANGED',
            from: s.t[edges[told[cut] ?? 0] ?? 0] ?? 0,
            to: s.t[s.n - 1] ?? 0,
            evidence: { ratio, before, after },
          },
        ]
  })
  if (found.length === 0) return even
  const ofTold = Float64Array.from(y, (_, i) => levels[cuts.filter((c) => c <= i).length] ?? 1)
  const middle = median(ofTold)
  const profile = new Float64Array(N)
  for (let b = 0, k = 0; b < N; b++) {
    while (k + 1 < told.length && (told[k + 1] ?? 0) <= b) k++
    profile[b] = (ofTold[k] ?? middle) / middle
  }
  return { found, profile }
}
