import { joinedRuns, type JudgeSettings, type LogFinding, type Values } from './finding.ts'

const FEWEST_OUT = 5
const FEWEST_AT_LIMIT = 10

/** Values beyond the range of the loop; fewer than five together are spikes. */
export function outOfRange(s: Values, { range, join }: JudgeSettings): LogFinding[] {
  if (!range) return []
  const beyond = (i: number) => Math.max(range.lo - (s.x[i] ?? 0), (s.x[i] ?? 0) - range.hi)
  return joinedRuns(s.n, (i) => beyond(i) > 0, join)
    .filter((r) => r.count >= FEWEST_OUT)
    .map(({ from, to, count }) => {
      let worst = from
      for (let i = from; i <= to; i++) if (beyond(i) > beyond(worst)) worst = i
      return {
        code: 'OUT_OF_RANGE',
        from: s.t[from] ?? 0,
        to: s.t[to] ?? 0,
        evidence: { samples: count, farthest: s.x[worst] ?? 0 },
      }
    })
}

/** Values that stand at a limit that is known. @returns the findings, and which samples are judged further */
export function atKnownLimits(
  s: Values,
  { range, limits, join }: JudgeSettings,
): { readonly found: readonly LogFinding[]; readonly keep: Uint8Array } {
  const keep = new Uint8Array(s.n).fill(1)
  const found: LogFinding[] = []
  const known = limits ?? (range ? [range.lo, range.hi] : [])
  const span = range ? range.hi - range.lo : spreadOf(s.x)
  for (const limit of known)
    for (const r of joinedRuns(s.n, (i) => Math.abs((s.x[i] ?? 0) - limit) <= 1e-6 * span, join)) {
      if (r.count < FEWEST_AT_LIMIT) continue
      keep.fill(0, r.from, r.to + 1)
      found.push({
        code: 'AT_LIMIT',
        from: s.t[r.from] ?? 0,
        to: s.t[r.to] ?? 0,
        evidence: { limit, samples: r.count, known: true },
      })
    }
  return { found, keep }
}

function spreadOf(x: Float64Array): number {
  let [lo, hi] = [Infinity, -Infinity]
  for (const v of x) {
    if (v < lo) lo = v
    if (v > hi) hi = v
  }
  return Math.max(0, hi - lo)
}

/** Samples of one value: how many, in how many runs, and how many neighbours are both at it. */
function pileOf(s: Values, value: number) {
  let [count, runs, pairs, first, last] = [0, 0, 0, -1, -1]
  for (let i = 0; i < s.n; i++) {
    if (s.x[i] !== value) continue
    count++
    if (i > 0 && s.x[i - 1] === value) pairs++
    else runs++
    if (first < 0) first = i
    last = i
  }
  return { count, runs, pairs, first, last }
}

/** The distinct values from one end: the extreme one, the next, and whether there are six. */
function extremes(s: Values, sign: 1 | -1) {
  let [top, next] = [-Infinity, -Infinity]
  const distinct = new Set<number>()
  for (const x of s.x) {
    if (distinct.size < 6) distinct.add(x)
    const y = sign * x
    if (y > top) [next, top] = [top, y]
    else if (y < top && y > next) next = y
  }
  return { top: sign * top, next: sign * next, isVaried: distinct.size >= 6 }
}

/** A pile of values at the largest or smallest one of the log: a limit that nobody told. */
export function atFoundLimits(s: Values, zeroShare: number): LogFinding[] {
  if (s.n < 2) return []
  let zeros = 0
  for (let i = 1; i < s.n; i++) if (s.x[i] === s.x[i - 1]) zeros++
  const found: LogFinding[] = []
  for (const sign of [1, -1] as const) {
    const { top, next, isVaried } = extremes(s, sign)
    const pile = pileOf(s, top)
    const enough = pile.count >= Math.max(20, 0.01 * s.n) && pile.runs >= 3 && isVaried
    if (!enough || pile.count < 1.2 * pileOf(s, next).count) continue
    if (pile.count <= 2 * pileOf(s, extremes(s, sign === 1 ? -1 : 1).top).count) continue
    if ((zeros - pile.pairs) / Math.max(1, s.n - 1 - pile.pairs) >= zeroShare) continue
    found.push({
      code: 'AT_LIMIT',
      from: s.t[pile.first] ?? 0,
      to: s.t[pile.last] ?? 0,
      evidence: { limit: top, samples: pile.count, known: false },
    })
  }
  return found
}
