import { risen, type Channel, type Series } from '../samples.ts'
import { type StretchPair, stretchPairs } from './by-stretch.ts'
import { type ClocksApart, lagAt } from './clocks.ts'
import { onGrid, pairsOf, type OnGrid } from './common-base.ts'
import { type DifferencesAt, differencePlot } from './difference-plot.ts'
import { type LagSums, lagSumsOf, type Origin } from './lag-sums.ts'
import { type PairSums, pairSumsOf } from './pair-sums.ts'

/** Times that are a part's own, ms: from the first one up to, not including, the last. */
export interface OwnTime {
  readonly from: number
  readonly to: number
}
/** What is seen of both logs in a part goes beyond it by the longest lag on either side. */
interface PartAsked {
  /** Absent: there is but one part. */
  readonly own?: OwnTime | undefined
  readonly step_ms: number
  readonly origin: Origin
  readonly gapFactor: number
}

/** Points of the base that are a part's own. */
const pointsOf = (own: OwnTime | undefined, step_ms: number) =>
  own
    ? { from: Math.ceil(own.from / step_ms), to: Math.ceil(own.to / step_ms) }
    : { from: -Infinity, to: Infinity }

/** Sums of the pairs of a part at each lag. */
export function lagPart(a: Channel, b: Channel, o: PartAsked & { readonly most: number }): LagSums {
  const [onA, onB] = [a, b].map((c) => onGrid(risen(c, o.gapFactor), o.step_ms)) as [OnGrid, OnGrid]
  return lagSumsOf(onA, onB, o.most, pointsOf(o.own, o.step_ms), o.origin)
}

/** The pairs of a part, with the lag taken out. */
export interface PairsOfPart {
  readonly pairs: PairSums
  readonly marks: readonly DifferencesAt[]
  /** Where both stand still; null: their tolerance is not known. */
  readonly points: readonly StretchPair[] | null
}

/** As many marks of a part as leave those of the whole where they are. */
const MARKS_OF_PART = 480

const cut = ({ t, v }: Channel, own: OwnTime | undefined): Channel => {
  if (!own) return { t, v }
  const [times, values]: [number[], (number | null)[]] = [[], []]
  for (let i = 0; i < t.length; i++) {
    const time = t[i] ?? NaN
    if (!(time >= own.from && time < own.to)) continue
    times.push(time)
    values.push(v[i] ?? null)
  }
  return { t: times, v: values }
}
/** A grid within some of its points. */
function within(g: OnGrid, { from, to }: { readonly from: number; readonly to: number }): OnGrid {
  const [begin, end] = [Math.max(g.first, from), Math.min(g.first + g.v.length, to)]
  return { first: begin, v: g.v.subarray(begin - g.first, Math.max(begin, end) - g.first) }
}

/** Differences, line and stretches of a part, from its own pairs. */
export function pairPart(
  a: Channel,
  b: Channel,
  o: PartAsked & {
    readonly lag_ms: number
    /**
     * How the lag moves, or null: the lag of each time is taken out, and stretches are of one time with it. Absent: one
     * lag is taken out of all of it, and none is asked of the stretches.
     */
    readonly clocks?: ClocksApart | null | undefined
    readonly tau?: number | undefined
    readonly T?: number | undefined
    readonly Ua: number
    readonly Ub: number
  },
): PairsOfPart {
  const own = pointsOf(o.own, o.step_ms)
  const { tau, T, clocks } = o
  const lag = (time: number) => lagAt(time, o.lag_ms, clocks ?? null)
  const grid = (s: Series, later?: (time: number) => number) => within(onGrid(s, o.step_ms, later), own)
  const both = pairsOf(grid(risen(a, o.gapFactor)), grid(risen(b, o.gapFactor), lag))
  return {
    pairs: pairSumsOf(both.a, both.b, o.origin),
    marks: differencePlot(both.a, both.b, o.own ? MARKS_OF_PART : undefined),
    points:
      tau === undefined || T === undefined
        ? null
        : stretchPairs(cut(a, o.own), cut(b, o.own), {
            ...o,
            tau_s: tau,
            T,
            later: clocks === undefined ? undefined : lag,
          }),
  }
}
