import type { Series } from '../samples.ts'

/** A series on whole multiples of a step, from its first time up to, not including, its last; NaN in gaps. */
export interface OnGrid {
  /** Number of the first grid point: its time is `first · step`. */
  readonly first: number
  readonly v: Float64Array
}

/**
 * A series by straight lines at whole multiples of a step.
 * @param step_ms - distance of the grid points, ms
 * @param later - by how much its times are moved, ms; it grows far more slowly than time runs
 */
export function onGrid(s: Series, step_ms: number, later: (time: number) => number = () => 0): OnGrid {
  const at = (i: number) => {
    const time = s.t[i] ?? 0
    return time + later(time)
  }
  const first = Math.ceil(at(0) / step_ms)
  const last = Math.ceil(at(s.n - 1) / step_ms) - 1
  const v = new Float64Array(Math.max(0, last - first + 1)).fill(NaN)
  let i = 0
  for (let k = 0; k < v.length; k++) {
    const time = (first + k) * step_ms
    while (i + 1 < s.n && at(i + 1) <= time) i++
    const [t0, x0] = [at(i), s.v[i] ?? 0]
    if (time === t0) v[k] = x0
    else if (i + 1 < s.n && at(i + 1) - t0 <= s.pace.gapAbove)
      v[k] = x0 + (((s.v[i + 1] ?? 0) - x0) * (time - t0)) / (at(i + 1) - t0)
  }
  return { first, v }
}

/** Pairs of two series at the grid points that both have. */
export function pairsOf(a: OnGrid, b: OnGrid): { readonly a: Float64Array; readonly b: Float64Array } {
  const from = Math.max(a.first, b.first)
  const to = Math.min(a.first + a.v.length, b.first + b.v.length)
  const [xs, ys] = [new Float64Array(Math.max(0, to - from)), new Float64Array(Math.max(0, to - from))]
  let n = 0
  for (let k = from; k < to; k++) {
    const [x = NaN, y = NaN] = [a.v[k - a.first], b.v[k - b.first]]
    if (Number.isNaN(x) || Number.isNaN(y)) continue
    xs[n] = x
    ys[n++] = y
  }
  return { a: xs.subarray(0, n), b: ys.subarray(0, n) }
}
