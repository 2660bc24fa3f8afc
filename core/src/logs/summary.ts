/** What is held of a stretch of samples: enough to draw it and to take its mean and scatter, without the samples. */
export interface Summary {
  readonly count: number
  readonly min: number
  readonly max: number
  readonly mean: number
  /** Sum of squares about the mean: never the sum of squares, which loses the scatter at a high level. */
  readonly m2: number
}

/** The summary of numbers; null of none. */
export function summaryOf(v: ArrayLike<number>): Summary | null {
  const [count, first] = [v.length, v[0]]
  if (first === undefined) return null
  let [min, max, sum] = [Infinity, -Infinity, 0]
  for (let i = 0; i < count; i++) {
    const x = v[i] ?? 0
    if (x < min) min = x
    if (x > max) max = x
    sum += x - first
  }
  const mean = first + sum / count
  let m2 = 0
  for (let i = 0; i < count; i++) m2 += ((v[i] ?? 0) - mean) ** 2
  return { count, min, max, mean, m2 }
}

/** Two stretches as one. Exact, in any grouping. */
export function merged(a: Summary, b: Summary): Summary {
  const count = a.count + b.count
  const delta = b.mean - a.mean
  return {
    count,
    min: Math.min(a.min, b.min),
    max: Math.max(a.max, b.max),
    mean: a.mean + (delta * b.count) / count,
    m2: a.m2 + b.m2 + (delta * delta * a.count * b.count) / count,
  }
}

/** Standard deviation of what a summary holds, n − 1; 0 of fewer than two. */
export const deviationOf = (s: Summary): number => (s.count > 1 ? Math.sqrt(s.m2 / (s.count - 1)) : 0)
