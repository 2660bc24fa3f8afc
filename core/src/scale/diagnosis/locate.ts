import type { Chain } from '../../signal/chain.ts'
import type { StationId } from '../../signal/stage.ts'
import { normalCdf, normalQuantile } from '../../statistics/normal.ts'
import { explain, type Explanation } from './explain.ts'
import { fractionAt, linksBetween, segmentOf, spanAt, type Link, type Segment } from './links.ts'
import type { Point } from './shapes.ts'

/** Stations along the line. */
export const ORDER: readonly StationId[] = ['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU', 'DSP']

export type SegmentState = 'WITHIN' | 'OUT' | 'INDETERMINATE'
/** What was read at one level: a value by station, and whether the level was approached rising (1) or falling. */
export interface Level {
  readonly values: Partial<Readonly<Record<StationId, number>>>
  readonly dir: 1 | -1
  /** Where a known signal was fed in instead of the process: nothing before it says anything at this level. */
  readonly fedAt?: StationId
}
export interface LocateTask {
  readonly chain: Chain
  readonly levels: readonly Level[]
  /** Standard uncertainty of each station's reading, in its unit. */
  readonly u: Partial<Readonly<Record<StationId, number>>>
  /** Tolerance of each station, % of span. */
  readonly tol: Partial<Readonly<Record<StationId, number>>>
}
export interface SegmentResult {
  readonly from: StationId
  readonly to: StationId
  readonly links: readonly Link[]
  readonly state: SegmentState
  /** Per level, % of span. */
  readonly residuals_pct: readonly number[]
  readonly U_pct: readonly number[]
  readonly T_pct: number
  readonly levelStates: readonly SegmentState[]
  readonly explanation: Explanation | null
  /** All that came into it was one value: what it makes of others was not seen. */
  readonly seesOneValue: boolean
  /** The same level read otherwise each time, by more than noise and tolerance allow: at which level, and by how much. */
  readonly comesAndGoes: { readonly at_pct: number; readonly spread_pct: number } | null
  /** Where the state is not decided: U that would decide it, % of span. */
  readonly neededU_pct: number | null
}
export interface Located {
  readonly segments: readonly SegmentResult[]
  readonly firstOut: SegmentResult | null
  /** All segments are inside and the whole is not: tolerances have added up. */
  readonly addedUp: boolean
  readonly endToEnd: SegmentResult | null
}

/** Levels by where their signal was fed in; those from the process first. */
function byFeed(levels: readonly Level[]): (readonly Level[])[] {
  const of = (at: StationId | undefined) => levels.filter((l) => l.fedAt === at)
  return [of(undefined), ...ORDER.map(of)].filter((group) => group.length > 0)
}
/** The stations read at every level of the process, or at every one that was fed in at the same station, in chain order. */
export const observedStations = (levels: readonly Level[]): StationId[] =>
  ORDER.filter((id) => byFeed(levels).some((group) => isRead(group, id)))
const isRead = (group: readonly Level[], id: StationId): boolean =>
  group.every((l) => l.values[id] !== undefined && (!l.fedAt || ORDER.indexOf(id) >= ORDER.indexOf(l.fedAt)))

/** Standard uncertainties within which an input surely lies, and from zero up to which a root is bent too much for less. */
const SURELY = 3
const NEAR_ZERO = 12
/** Tolerances of a segment, fractions: all of it, and what of it lies before the bend. */
function tolerances(segment: Segment, tol: LocateTask['tol']): { readonly T: number; readonly Tin: number } {
  const of = (links: readonly Link[]) =>
    links.reduce((sum, link) => sum + (tol[(link.split('>')[1] ?? '') as StationId] ?? 0), 0) / 100
  const bendAt = segment.bend ? segment.links.indexOf(segment.bend.link) : 0
  return { T: of(segment.links), Tin: of(segment.links.slice(0, bendAt)) }
}
/**
 * A reading of a segment as a point: what is expected from the value measured before it, what is allowed there, and
 * how well both are known. Before a bend an uncertainty or a tolerance counts with its reach: at the zero of a root,
 * where a slightly negative input has no slope, that is what it lets through.
 */
export function pointOf(
  segment: Segment,
  { phi, r, ua, ub, dir }: { phi: number; r: number; ua: number; ub: number; dir: 1 | -1 },
  { T, Tin }: { readonly T: number; readonly Tin: number },
): Point {
  const { law, bend } = segment
  const F = law(phi)
  const from = bend?.kind === 'sqrt' ? Math.max(phi, 0) : phi
  // Near the zero of a root nothing is a line: all that the input may surely be counts.
  const nothing =
    bend?.kind === 'sqrt' && from <= NEAR_ZERO * ua
      ? Math.max(F - law(Math.max(0, from - SURELY * ua)), law(from + SURELY * ua) - F) / 2
      : 0
  const reach = (by: number) =>
    Math.max(nothing, Math.abs(law(from + by) - law(from)), Math.abs(law(from + by) - law(from - by)) / 2)
  const free = segment.zones.map((zone) => zone.free(phi))
  return {
    F,
    r,
    s: Math.hypot(ub, bend ? reach(ua) : (law(phi + ua) - law(phi - ua)) / 2),
    dir,
    x: free[0]?.x ?? F,
    T: T - Tin + (bend && Tin > 0 ? reachAt(segment, free[0]?.x ?? phi, Tin) : 0),
    free,
  }
}
/** What a change before the bend makes of what comes out behind it. */
function reachAt({ bend }: Segment, x: number, by: number): number {
  if (!bend) return by
  const from = bend.kind === 'sqrt' ? Math.max(x, 0) : x
  return Math.max(Math.abs(bend.G(from + by) - bend.G(from)), Math.abs(bend.G(from - by) - bend.G(from)))
}

/** Chance that a healthy reading seems out by its noise alone, for all that are judged together. */
const FALSE_OUT = 1 - normalCdf(2)
/** Standard uncertainties that a reading has to be out by: 2 for one alone, more the more are judged beside it. */
const surely = (readings: number): number => normalQuantile(1 - FALSE_OUT / Math.max(1, readings))

/** Two readings of one level differ by this many of their standard uncertainties: more than chance. */
const SURELY_APART = 5 * Math.SQRT2
/** Levels this near are the same one. */
const SAME_LEVEL = 0.005

/** The level at which the readings disagree most with each other, where that is more than they may. */
function comesAndGoes(points: readonly Point[], T: number): SegmentResult['comesAndGoes'] {
  const spreads = points.map((p) => {
    const same = points.filter((q) => q.dir === p.dir && Math.abs(q.F - p.F) <= SAME_LEVEL)
    const off = same.map((q) => q.r - q.F)
    return { p, spread: Math.max(...off) - Math.min(...off) }
  })
  const most = spreads.reduce((a, b) => (b.spread > a.spread ? b : a))
  return most.spread > Math.max(most.p.T ?? T, SURELY_APART * most.p.s)
    ? { at_pct: 100 * most.p.F, spread_pct: 100 * most.spread }
    : null
}

const LEAST_APART = 0.02
const isOneValue = (points: readonly Point[]): boolean => {
  const F = points.map((p) => p.F)
  return Math.max(...F) - Math.min(...F) <= Math.max(LEAST_APART, 4 * Math.max(...points.map((p) => p.s)))
}

function judge(
  task: LocateTask,
  { from, to, levels }: { from: StationId; to: StationId; levels: readonly Level[] },
  k: number,
  whole = false,
): SegmentResult | null {
  const { chain } = task
  const segment = segmentOf(chain, from, to)
  if (!segment) return null
  const allowed = tolerances(segment, task.tol)
  const { T, Tin } = allowed
  const uFraction = (id: StationId) => Math.abs((task.u[id] ?? 0) / spanAt(chain, id))
  const [ua, ub] = [uFraction(from), uFraction(to)]
  const points = levels.map((l) => {
    const [a, b] = [l.values[from] ?? 0, l.values[to] ?? 0]
    const [phi, r] = [fractionAt(chain, from, a), fractionAt(chain, to, b)]
    return pointOf(segment, { phi, r, ua, ub, dir: l.dir }, allowed)
  })
  const levelStates = points.map((p): SegmentState => {
    const res = Math.abs(p.r - p.F)
    const may = p.T ?? T
    return res + 2 * p.s <= may ? 'WITHIN' : res - k * p.s > may ? 'OUT' : 'INDETERMINATE'
  })
  const apart = comesAndGoes(points, T)
  const state = levelStates.includes('OUT')
    ? 'OUT'
    : apart !== null || levelStates.includes('INDETERMINATE')
      ? 'INDETERMINATE'
      : 'WITHIN'
  // What comes and goes is named by the readings it was there at.
  const there = apart && state === 'OUT' ? points.filter((_, i) => levelStates[i] === 'OUT') : points
  const open = points.filter((_, i) => levelStates[i] === 'INDETERMINATE')
  return {
    from,
    to,
    links: segment.links,
    state,
    residuals_pct: points.map((p) => 100 * (p.r - p.F)),
    U_pct: points.map((p) => 200 * p.s),
    T_pct: 100 * T,
    levelStates,
    // The whole is only held against its parts: its mistake is named in the part it lies in.
    explanation: whole || state === 'WITHIN' ? null : explain({ chain, segment, points: there, Tin }, T),
    comesAndGoes: apart,
    seesOneValue: isOneValue(points),
    neededU_pct:
      state === 'INDETERMINATE' && open.length > 0
        ? Math.min(...open.map((p) => 100 * Math.abs((p.T ?? T) - Math.abs(p.r - p.F))))
        : null,
  }
}

/**
 * Where along the chain an error comes in.
 *
 * Each segment is judged from the value MEASURED before it, so faults in separate segments do not colour each other
 * and faults that cancel still show.
 */
export function locate(task: LocateTask): Located {
  const groups = byFeed(task.levels)
  const stretches = new Map<string, { from: StationId; to: StationId; levels: readonly Level[] }>()
  for (const levels of groups) {
    const observed = ORDER.filter((id) => isRead(levels, id))
    for (const to of observed.slice(1)) {
      // The nearest observed station that this one really follows from: a display in the loop skips the card.
      const from = observed
        .slice(0, observed.indexOf(to))
        .findLast((id) => linksBetween(task.chain, id, to) !== null)
      if (!from) continue
      const key = `${from}>${to}`
      stretches.set(key, { from, to, levels: [...(stretches.get(key)?.levels ?? []), ...levels] })
    }
  }
  const along = [...stretches.values()].sort(
    (a, b) => ORDER.indexOf(a.to) - ORDER.indexOf(b.to) || ORDER.indexOf(a.from) - ORDER.indexOf(b.from),
  )
  const sure = surely(along.reduce((sum, s) => sum + s.levels.length, 0))
  const segments = narrowed(along.flatMap((s) => judge(task, s, sure) ?? []))
  const whole = byFeed(task.levels).find((g) => g.every((l) => !l.fedAt)) ?? []
  const read = ORDER.filter((id) => whole.length > 0 && isRead(whole, id))
  const [first, last] = [read[0], read.at(-1)]
  const endToEnd =
    first && last && first !== last ? judge(task, { from: first, to: last, levels: whole }, sure, true) : null
  return {
    segments,
    firstOut: segments.find((s) => s.state === 'OUT') ?? null,
    endToEnd,
    addedUp: segments.length > 1 && segments.every((s) => s.state === 'WITHIN') && endToEnd?.state === 'OUT',
  }
}

/** A stretch that is out, less what of its end a signal fed in there has proved: the mistake lies before that. */
function narrowed(segments: readonly SegmentResult[]): SegmentResult[] {
  return segments.map((s) => {
    const proved = segments.find(
      (g) =>
        g.state === 'WITHIN' &&
        // One value alone proves nothing of the others.
        !g.seesOneValue &&
        g.to === s.to &&
        g.from !== s.from &&
        g.links.length < s.links.length,
    )
    return proved && s.state !== 'WITHIN'
      ? { ...s, links: s.links.filter((link) => !proved.links.includes(link)) }
      : s
  })
}
