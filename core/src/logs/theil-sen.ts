import { median } from '../numeric/median.ts'

const PAIRS_UP_TO = 2000
const BLOCKS = 1000

/** Median of the slopes of all pairs, per unit of t; above 2000 points of 1000 blocks: mean time, median value. */
export function theilSen(t: ArrayLike<number>, v: ArrayLike<number>): number {
  const n = t.length
  if (n > PAIRS_UP_TO) {
    const [ts, vs] = [new Float64Array(BLOCKS), new Float64Array(BLOCKS)]
    for (let b = 0; b < BLOCKS; b++) {
      const [from, to] = [Math.round((b * n) / BLOCKS), Math.round(((b + 1) * n) / BLOCKS)]
      const part = new Float64Array(to - from)
      let sum = 0
      for (let i = from; i < to; i++) {
        sum += t[i] ?? 0
        part[i - from] = v[i] ?? 0
      }
      ts[b] = sum / (to - from)
      vs[b] = median(part)
    }
    return theilSen(ts, vs)
  }
  const slopes = new Float64Array((n * (n - 1)) / 2)
  let count = 0
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++)
      slopes[count++] = ((v[j] ?? 0) - (v[i] ?? 0)) / ((t[j] ?? 0) - (t[i] ?? 0))
  return median(slopes)
}
