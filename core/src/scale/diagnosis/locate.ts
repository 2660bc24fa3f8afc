import type { Chain } from '../../signal/chain.ts'
import type { StationId } from '../../signal/stage.ts'
import { normalCdf, normalQuantile } from '../../statistics/normal.ts'
import { explain, type Explanation } from './explain.ts'
import { fractionAt, linksBetween, segmentOf, spanAt, type Link, type Segment } from './links.ts'
import type { Point } from './shapes.ts'

const ORDER: readonly StationId[] = ['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU', 'DSP']

export type SegmentState = 'WITHIN' | 'OUT' | 'INDETERMINATE'
/** What was read at one level: a value by station, and whether the level was approached rising (1) or falling. */
export interface Level {
  readonly values: Partial<Readonly<Record<StationId, number>>>
  readonly dir: 1 | -1
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

/** The stations read at every level, in chain order. */
export const observedStations = (levels: readonly Level[]): StationId[] =>
  ORDER.filter((id) => levels.length > 0 && levels.every((l) => l.values[id] !== undefined))

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

function judge(
  task: LocateTask,
  from: StationId,
  to: StationId,
  k: number,
  whole = false,
): SegmentResult | null {
  const { chain, levels } = task
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
  const state = levelStates.includes('OUT')
    ? 'OUT'
    : levelStates.includes('INDETERMINATE')
      ? 'INDETERMINATE'
      : 'WITHIN'
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
    explanation: whole || state === 'WITHIN' ? null : explain({ chain, segment, points, Tin }, T),
    neededU_pct:
      state === 'INDETERMINATE'
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
  const observed = observedStations(task.levels)
  const sure = surely(task.levels.length * (observed.length - 1))
  const segments = observed.slice(1).flatMap((to): SegmentResult[] => {
    const i = observed.indexOf(to)
    // The nearest observed station that this one really follows from: a display in the loop skips the card.
    for (let k = i - 1; k >= 0; k--) {
      const from = observed[k]
      if (from && linksBetween(task.chain, from, to)) {
        const r = judge(task, from, to, sure)
        return r ? [r] : []
      }
    }
    return []
  })
  const [first, last] = [observed[0], observed.at(-1)]
  const endToEnd = first && last && first !== last ? judge(task, first, last, sure, true) : null
  const firstOut = segments.find((s) => s.state === 'OUT') ?? null
  return {
    segments,
    firstOut,
    endToEnd,
    addedUp: segments.length > 1 && segments.every((s) => s.state === 'WITHIN') && endToEnd?.state === 'OUT',
  }
}
