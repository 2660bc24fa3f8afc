import type { LagSums } from './lag-sums.ts'

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
function likeness(s: LagSums, at: number): number {
  const [n = 0, sa = 0, sb = 0] = [s.n[at], s.a[at], s.b[at]]
  if (n < LEAST_PAIRS) return NaN
  const [va, vb] = [(s.aa[at] ?? 0) - (sa * sa) / n, (s.bb[at] ?? 0) - (sb * sb) / n]
  return va > 0 && vb > 0 ? ((s.ab[at] ?? 0) - (sa * sb) / n) / Math.sqrt(va * vb) : 0
}

/** By how many steps a comes later than b, from the peak of their likeness within ± `most` steps. */
export function lagOf(sums: LagSums): Lag {
  const { most } = sums
  const r = Array.from({ length: 2 * most + 1 }, (_, i) => likeness(sums, i))
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
