/** What is held of a stretch of samples: enough to draw it and to take its mean and scatter, without the samples. */
export interface Summary {
  readonly count: number
  readonly min: number
  readonly max: number
  readonly mean: number
  /** Sum of squares about the mean: never the sum of squares, which loses the scatter at a high level. */
  readonly m2: number
  readonly first: number
  readonly last: number
  /** Times of the first and last sample, of the minimum and the maximum, ms. */
  readonly firstAt: number
  readonly lastAt: number
  readonly minAt: number
  readonly maxAt: number
}

/** The summary of samples from..to − 1, in their order; null of none. */
export function summaryOf(
  t: ArrayLike<number>,
  v: ArrayLike<number>,
  from = 0,
  to = v.length,
): Summary | null {
  const first = v[from]
  if (first === undefined || to <= from) return null
  let [min, max, minAt, maxAt, sum] = [Infinity, -Infinity, 0, 0, 0]
  for (let i = from; i < to; i++) {
    const x = v[i] ?? 0
    if (x < min) [min, minAt] = [x, t[i] ?? 0]
    if (x > max) [max, maxAt] = [x, t[i] ?? 0]
    sum += x - first
  }
  const count = to - from
  const mean = first + sum / count
  let m2 = 0
  for (let i = from; i < to; i++) m2 += ((v[i] ?? 0) - mean) ** 2
  return {
    count,
    min,
    max,
    mean,
    m2,
    first,
    last: v[to - 1] ?? first,
    firstAt: t[from] ?? 0,
    lastAt: t[to - 1] ?? 0,
    minAt,
    maxAt,
  }
}

/** Two neighbouring stretches as one; `a` comes before `b`. Exact, in any grouping. */
export function merged(a: Summary, b: Summary): Summary {
  const count = a.count + b.count
  const delta = b.mean - a.mean
  const low = b.min < a.min ? b : a
  const high = b.max > a.max ? b : a
  return {
    count,
    min: low.min,
    max: high.max,
    mean: a.mean + (delta * b.count) / count,
    m2: a.m2 + b.m2 + (delta * delta * a.count * b.count) / count,
    first: a.first,
    last: b.last,
    firstAt: a.firstAt,
    lastAt: b.lastAt,
    minAt: low.minAt,
    maxAt: high.maxAt,
  }
}

/** Standard deviation of what a summary holds, n − 1; 0 of fewer than two. */
export const deviationOf = (s: Summary): number => (s.count > 1 ? Math.sqrt(s.m2 / (s.count - 1)) : 0)
