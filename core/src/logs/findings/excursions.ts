import { median, robustDeviation } from '../../numeric/median.ts'
import type { LogFinding, Values } from './finding.ts'

/** Four samples and fewer are a spike. */
const SHORTEST = 5
const FINEST = 4
/** A block is told by the middle of so many before it and behind it. */
const AROUND = 5
const FEWEST_BLOCKS = 64
const CHUNK = 64
/** Deviations of a block that are no scatter any more. */
const K = 8
/** What happens more often than this is how the process moves. */
const MOST = 6
/** Bins in which both ends are looked for together. */
const BINS = 192

export interface Excursion {
  readonly from: number
  /** The first sample behind it. */
  readonly to: number
  readonly size: number
}

/** With how many scatters it stood out. */
type Told = Excursion & { readonly strength: number }

const sumsOf = (x: Float64Array): Float64Array => {
  const sums = new Float64Array(x.length + 1)
  for (let i = 0; i < x.length; i++) sums[i + 1] = (sums[i] ?? 0) + (x[i] ?? 0)
  return sums
}
const meanOf = (sums: Float64Array, from: number, to: number): number =>
  ((sums[to] ?? 0) - (sums[from] ?? 0)) / (to - from)

/** Median of five each, beginning at each. */
function middlesOf(y: Float64Array): Float64Array {
  const out = new Float64Array(Math.max(0, y.length - AROUND + 1))
  const held = new Float64Array(AROUND)
  for (let j = 0; j < out.length; j++) {
    // Kept in order by insertion: five are too few for a sort.
    for (let k = 0; k < AROUND; k++) {
      const value = y[j + k] ?? 0
      let at = k
      while (at > 0 && (held[at - 1] ?? 0) > value) {
        held[at] = held[at - 1] ?? 0
        at--
      }
      held[at] = value
    }
    out[j] = held[AROUND >> 1] ?? 0
  }
  return out
}

interface Zone {
  readonly from: number
  to: number
  /** By how many scatters it stands out. */
  strength: number
}

/** Stretches of blocks that stand out from what is before them and from what is behind them, to the same side. */
function standingOut(y: Float64Array, least: number): readonly Zone[] {
  const N = y.length
  const middles = middlesOf(y)
  const [before, behind] = [new Float64Array(N), new Float64Array(N)]
  for (let i = 1; i < N - 1; i++) {
    const [m, z] = [
      i < AROUND ? median(y.subarray(0, i)) : (middles[i - AROUND] ?? 0),
      i + AROUND < N ? (middles[i + 1] ?? 0) : median(y.subarray(i + 1)),
    ]
    before[i] = (y[i] ?? 0) - m
    behind[i] = (y[i] ?? 0) - z
  }
  const overall = robustDeviation(before.subarray(1, N - 1))
  const own = Array.from({ length: Math.ceil(N / CHUNK) }, (_, c) =>
    robustDeviation(before.subarray(Math.max(1, c * CHUNK), Math.min(N - 1, (c + 1) * CHUNK))),
  )
  const zones: Zone[] = []
  for (let i = 2; i < N - 2; i++) {
    const [a, z] = [before[i] ?? 0, behind[i] ?? 0]
    if (Math.sign(a) !== Math.sign(z)) continue
    const c = Math.floor(i / CHUNK)
    const scale = Math.max(overall, own[c - 1] ?? 0, own[c] ?? 0, own[c + 1] ?? 0)
    const out = Math.min(Math.abs(a), Math.abs(z))
    if (!(out > K * scale && out > least)) continue
    const [last, strength] = [zones.at(-1), out / scale]
    if (last && i - last.to <= 2)
      Object.assign(last, { to: i + 1, strength: Math.max(last.strength, strength) })
    else zones.push({ from: i, to: i + 1, strength })
  }
  return zones
}

/** By how much the squares of from..to − 1 fall when i..j − 1 have a level of their own. */
function gainOf(sums: Float64Array, from: number, to: number, i: number, j: number): number {
  const [W, L] = [to - from, j - i]
  if (L < 1 || L >= W) return 0
  const inside = (sums[j] ?? 0) - (sums[i] ?? 0)
  const all = (sums[to] ?? 0) - (sums[from] ?? 0)
  return (inside - (L / W) * all) ** 2 / (L * (1 - L / W))
}

/** Both ends of what stands out in from..to − 1: in bins first, then each to its sample. */
function endsOf(sums: Float64Array, from: number, to: number): { from: number; to: number } {
  const bin = Math.max(1, Math.ceil((to - from) / BINS))
  const edges: number[] = []
  for (let at = from; at < to; at += bin) edges.push(at)
  edges.push(to)
  let best = { gain: 0, from, to }
  for (const [k, i] of edges.entries())
    for (const j of edges.slice(k + 1)) {
      const gain = gainOf(sums, from, to, i, j)
      if (gain > best.gain) best = { gain, from: i, to: j }
    }
  for (let round = 0; round < 2; round++)
    for (const end of ['from', 'to'] as const) {
      const middle = best[end]
      for (let at = Math.max(from, middle - bin); at <= Math.min(to, middle + bin); at++) {
        const tried = { ...best, [end]: at }
        const gain = tried.to > tried.from ? gainOf(sums, from, to, tried.from, tried.to) : 0
        if (gain > best.gain) best = { ...tried, gain }
      }
    }
  return { from: best.from, to: best.to }
}

const differencesOf = (x: Float64Array): Float64Array => {
  const d = new Float64Array(Math.max(0, x.length - 1))
  for (let i = 0; i < d.length; i++) d[i] = (x[i + 1] ?? 0) - (x[i] ?? 0)
  return d
}
const rmsOf = (d: Float64Array): number => Math.sqrt(d.reduce((sum, x) => sum + x * x, 0) / d.length)
/** How much more neighbours differ in and around an excursion than usually, its two edges not counted; 1 at least. */
function roughness(d: Float64Array, usual: number, { from, to }: { from: number; to: number }): number {
  const side = Math.max(SHORTEST, to - from)
  const parts = [
    d.subarray(Math.max(0, from - 1 - side), from - 1),
    d.subarray(from, to - 1),
    d.subarray(to, to + side),
  ]
  return Math.max(1, ...parts.map((part) => (part.length > 0 ? rmsOf(part) / usual : 1)))
}

/** How far it goes from the level on both sides of it. */
function sizeOf(sums: Float64Array, e: { from: number; to: number }, side: number): number {
  const before = meanOf(sums, Math.max(0, e.from - side), e.from)
  const behind = meanOf(sums, e.to, Math.min(sums.length - 1, e.to + side))
  return meanOf(sums, e.from, e.to) - (before + behind) / 2
}

/** Values as if the excursions had not been. */
export function without(x: Float64Array, excursions: readonly Excursion[]): Float64Array {
  const left = x.slice()
  for (const e of excursions) for (let i = e.from; i < e.to; i++) left[i] = (left[i] ?? 0) - e.size
  return left
}

/**
 * Where a value goes somewhere else for a short time and comes back: too long for a spike, and short beside the blocks
 * in which steps are looked for, where it would be told at a wrong place, or as scatter, or not at all. What does so
 * more than a few times is the process at work and is left to the other rules.
 *
 * Means of blocks of 4, 8, 16 … samples are held against the middle of the five before and of the five behind: one
 * that stands out from both to the same side by more than eight times the scatter of such differences (of the log,
 * and of the place) is an excursion. A step stands between both; a slope too. Where neighbours differ more than usually
 * it has to stand out by as much more: a moment of scatter is no level.
 * @param least - what is no size of its own: two steps of a quantised log, what computing leaves
 */
export function excursionsIn(x: Float64Array, least: number): readonly Excursion[] {
  let out: readonly Told[] = []
  const d = differencesOf(x)
  const usual = robustDeviation(d) || rmsOf(d)
  for (let b = FINEST; x.length / b >= FEWEST_BLOCKS; b *= 2) {
    const sums = sumsOf(without(x, out))
    const y = new Float64Array(Math.floor(x.length / b))
    for (let i = 0; i < y.length; i++) y[i] = meanOf(sums, i * b, (i + 1) * b)
    const zones = standingOut(y, least)
    if (zones.length > MOST) return []
    for (const z of zones) {
      const side = AROUND * b
      const near = out.filter((e) => e.from < (z.to + AROUND) * b && e.to > (z.from - AROUND) * b)
      const others = out.filter((e) => !near.includes(e))
      // What stands out beside one that was found before is the rest of it: one hump, not a stair.
      const from = Math.max(0, Math.min(z.from * b, ...near.map((e) => e.from)) - side)
      const to = Math.min(x.length, Math.max(z.to * b, ...near.map((e) => e.to)) + side)
      const withNear = sumsOf(without(x, others))
      const ends = endsOf(withNear, from, to)
      const strength = Math.max(z.strength, ...near.map((e) => e.strength))
      // What reaches the end of what is looked at did not come back.
      if (ends.to - ends.from < SHORTEST || ends.from === from || ends.to === to) continue
      if (!(strength > K * roughness(d, usual, ends))) continue
      const size = sizeOf(withNear, ends, side)
      if (Math.abs(size) > least) out = [...others, { ...ends, size, strength }]
    }
    if (out.length > MOST) return []
  }
  return out.map(({ from, to, size }) => ({ from, to, size }))
}

/** An excursion is told as the two steps it is. */
export const asSteps = (s: Values, excursions: readonly Excursion[]): LogFinding[] =>
  excursions.flatMap(({ from, to, size }) =>
    (
      [
        [from, size],
        [to, -size],
      ] as const
    ).map(([at, size]) => ({ code: 'STEP', from: s.t[at] ?? 0, to: s.t[at] ?? 0, evidence: { size } })),
  )
