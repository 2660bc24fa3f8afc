/** The differences of two logs that lie about one mean of both: how many, their mean, their true smallest and largest. */
export interface DifferencesAt {
  readonly at: number
  readonly n: number
  readonly mean: number
  readonly min: number
  readonly max: number
}

/** As many marks as a plot of its size can part. */
const MARKS = 48

/**
 * Every difference a − b against the mean of both, summed up by marks of one width: none is left out, and the farthest
 * stand where they are. @see Bland and Altman, The Lancet 327 (1986) 307
 */
export function differencePlot(a: ArrayLike<number>, b: ArrayLike<number>, most = MARKS): DifferencesAt[] {
  const n = Math.min(a.length, b.length)
  const meanOf = (i: number) => ((a[i] ?? 0) + (b[i] ?? 0)) / 2
  let [from, to] = [Infinity, -Infinity]
  for (let i = 0; i < n; i++) {
    from = Math.min(from, meanOf(i))
    to = Math.max(to, meanOf(i))
  }
  const width = (to - from) / most
  const marks = new Map<number, { n: number; at: number; sum: number; min: number; max: number }>()
  for (let i = 0; i < n; i++) {
    const [m, d] = [meanOf(i), (a[i] ?? 0) - (b[i] ?? 0)]
    const k = width > 0 ? Math.min(most - 1, Math.floor((m - from) / width)) : 0
    const x = marks.get(k) ?? { n: 0, at: 0, sum: 0, min: Infinity, max: -Infinity }
    marks.set(k, {
      n: x.n + 1,
      at: x.at + m,
      sum: x.sum + d,
      min: Math.min(x.min, d),
      max: Math.max(x.max, d),
    })
  }
  return [...marks]
    .sort(([x], [y]) => x - y)
    .map(([, x]) => ({ at: x.at / x.n, n: x.n, mean: x.sum / x.n, min: x.min, max: x.max }))
}

/** The marks of several parts as marks of one plot: each goes whole to where its mean lies. */
export function marksJoined(parts: readonly (readonly DifferencesAt[])[]): readonly DifferencesAt[] {
  const [only, ...others] = parts
  if (only && others.length === 0) return only
  const all = parts.flat()
  let [from, to] = [Infinity, -Infinity]
  for (const { at } of all) {
    from = Math.min(from, at)
    to = Math.max(to, at)
  }
  const width = (to - from) / MARKS
  const joined = new Map<number, DifferencesAt>()
  for (const m of all) {
    const k = width > 0 ? Math.min(MARKS - 1, Math.floor((m.at - from) / width)) : 0
    const x = joined.get(k)
    const n = m.n + (x?.n ?? 0)
    joined.set(k, {
      n,
      at: (m.at * m.n + (x ? x.at * x.n : 0)) / n,
      mean: (m.mean * m.n + (x ? x.mean * x.n : 0)) / n,
      min: Math.min(m.min, x?.min ?? Infinity),
      max: Math.max(m.max, x?.max ?? -Infinity),
    })
  }
  return [...joined].sort(([x], [y]) => x - y).map(([, m]) => m)
}
