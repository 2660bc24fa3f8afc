import { inflation, neighbourCorrelation } from '../correlation.ts'
import { risen, type Channel, type Series } from '../samples.ts'
import { stableStretches } from '../stable-stretches.ts'
import { type LineOfTwo, yorkLine } from './line-of-two.ts'

/** Two series compared where both stand still. */
export interface StretchPair {
  readonly from: number
  readonly to: number
  readonly n: number
  readonly a: number
  readonly b: number
  readonly uA: number
  readonly uB: number
  readonly difference: number
  readonly En: number | null
}
export interface ByStretch {
  readonly points: readonly StretchPair[]
  readonly line: (LineOfTwo & { readonly chi2: number }) | null
}

const LEAST_SAMPLES = 10

/** The first sample that does not lie before a time. */
function firstFrom(s: Series, time: number): number {
  let [low, high] = [0, s.n]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((s.t[middle] ?? 0) < time) low = middle + 1
    else high = middle
  }
  return low
}

function meanOf(s: Series, from: number, to: number) {
  const first = firstFrom(s, from)
  let end = first
  while (end < s.n && (s.t[end] ?? 0) <= to) end++
  const inside = s.v.subarray(first, end)
  const n = inside.length
  const mean = inside.reduce((x, y) => x + y, 0) / n
  const e = inside.map((x) => x - mean)
  const sd = n > 1 ? Math.sqrt(e.reduce((x, y) => x + y * y, 0) / (n - 1)) : 0
  return { n, mean, u: sd * Math.sqrt(inflation(neighbourCorrelation(e)) / n) }
}

/**
 * Means over the stretches in which both stand still, which needs no lag.
 * @param tau_s - time constant of the slower of the two, s
 * @param T - tolerance in the unit of the values
 * @param Ua - expanded uncertainty of a, Ub of b, k = 2
 */
export function stretchPairs(
  a: Channel,
  b: Channel,
  o: {
    readonly tau_s: number
    readonly T: number
    readonly Ua: number
    readonly Ub: number
    readonly gapFactor: number
    /** By how much a comes later, ms: a pair has to be one with the lag taken out too. Absent: that is not asked. */
    readonly later?: ((time: number) => number) | undefined
  },
): StretchPair[] {
  const [sa, sb] = [risen(a, o.gapFactor), risen(b, o.gapFactor)]
  const still = [a, b].map((c) => stableStretches(c, o.tau_s, o.T, o.gapFactor).stretches)
  const points: StretchPair[] = []
  let next = 0
  for (const x of still[0] ?? []) {
    // Both lie in the order of time: what ended before this one is behind us.
    while ((still[1]?.[next]?.to ?? Infinity) <= x.from) next++
    for (let k = next; (still[1]?.[k]?.from ?? Infinity) < x.to; k++) {
      const y = still[1]?.[k]
      if (!y) break
      const [from, to] = [Math.max(x.from, y.from), Math.min(x.to, y.to)]
      if (to <= from || to - from < 3000 * o.tau_s) continue
      // What both show while one of them is late may be the old level held against the new one.
      const later = o.later?.(from) ?? 0
      if (Math.min(x.to, y.to + later) - Math.max(x.from, y.from + later) < 3000 * o.tau_s) continue
      const [ma, mb] = [meanOf(sa, from, to), meanOf(sb, from, to)]
      if (ma.n < LEAST_SAMPLES || mb.n < LEAST_SAMPLES) continue
      const difference = ma.mean - mb.mean
      const wide = Math.sqrt(o.Ua ** 2 + o.Ub ** 2 + 4 * (ma.u ** 2 + mb.u ** 2))
      points.push({
        from,
        to,
        n: Math.min(ma.n, mb.n),
        a: ma.mean,
        b: mb.mean,
        uA: ma.u,
        uB: mb.u,
        difference,
        En: wide > 0 ? difference / wide : null,
      })
    }
  }
  return points
}

/** The preferred comparison: where both stand still, and the line through that, each with its own uncertainty. */
export function byStretchOf(points: readonly StretchPair[]): ByStretch {
  const sharp = points.every((p) => p.uA > 0 && p.uB > 0)
  return {
    points,
    line: sharp ? yorkLine(points.map((p) => ({ x: p.b, y: p.a, ux: p.uB, uy: p.uA }))) : null,
  }
}
