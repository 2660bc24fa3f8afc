import type { OnGrid } from './common-base.ts'

const LEAST_PAIRS = 20
/** Below this likeness two series do not tell their lag. */
const WEAK = 0.5
/** A second peak this near the highest makes the lag a guess. */
const RIVAL = 0.95

export interface Lag {
  /** In steps of the grid; positive: a comes later. 0 where it cannot be told. */
  readonly steps: number
  /** Likeness at the peak; null where there are too few pairs. */
  readonly correlation: number | null
  readonly ambiguous: 'weak' | 'edge' | 'rival' | null
}

/** Likeness of a(t + k) and b(t), each set of pairs about its own means; NaN for too few. */
function likeness(a: OnGrid, b: OnGrid, k: number): number {
  const from = Math.max(a.first - k, b.first)
  const to = Math.min(a.first - k + a.v.length, b.first + b.v.length)
  let [n, sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0, 0]
  const [oa, ob] = [firstOf(a), firstOf(b)]
  for (let i = from; i < to; i++) {
    const x = (a.v[i + k - a.first] ?? NaN) - oa
    const y = (b.v[i - b.first] ?? NaN) - ob
    if (x !== x || y !== y) continue
    n++
    sa += x
    sb += y
    aa += x * x
    bb += y * y
    ab += x * y
  }
  if (n < LEAST_PAIRS) return NaN
  const [va, vb] = [aa - (sa * sa) / n, bb - (sb * sb) / n]
  return va > 0 && vb > 0 ? (ab - (sa * sb) / n) / Math.sqrt(va * vb) : 0
}
const firstOf = (g: OnGrid) => g.v.find((x) => !Number.isNaN(x)) ?? 0

/** By how many steps a comes later than b, from the peak of their likeness within ± `most` steps. */
export function lagOf(a: OnGrid, b: OnGrid, most: number): Lag {
  const r = Array.from({ length: 2 * most + 1 }, (_, i) => likeness(a, b, i - most))
  let peak = -1
  r.forEach((x, i) => {
    if (!Number.isNaN(x) && (peak < 0 || x > (r[peak] ?? 0))) peak = i
  })
  const top = r[peak]
  if (top === undefined) return { steps: 0, correlation: null, ambiguous: 'weak' }
  const [before = NaN, after = NaN] = [r[peak - 1], r[peak + 1]]
  const told = (ambiguous: Lag['ambiguous'], steps = 0): Lag => ({ steps, correlation: top, ambiguous })
  if (top < WEAK) return told('weak')
  if (Number.isNaN(before) || Number.isNaN(after)) return most === 0 ? told(null) : told('edge')
  const isPeak = (i: number) =>
    (r[i] ?? NaN) >= (r[i - 1] ?? -Infinity) && (r[i] ?? NaN) >= (r[i + 1] ?? -Infinity)
  if (r.some((x, i) => Math.abs(i - peak) > 2 && isPeak(i) && x >= RIVAL * top)) return told('rival')
  const bend = before - 2 * top + after
  return told(null, peak - most + (bend < 0 ? (before - after) / (2 * bend) : 0))
}
