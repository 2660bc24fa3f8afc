import type { Chain } from '../../signal/chain.ts'
import type { StationId } from '../../signal/stage.ts'
import { explain, type Explanation } from './explain.ts'
import { fractionAt, linksBetween, segmentOf, spanAt, type Link } from './links.ts'
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

function judge(task: LocateTask, from: StationId, to: StationId): SegmentResult | null {
  const { chain, levels } = task
  const segment = segmentOf(chain, from, to)
  if (!segment) return null
  const T =
    segment.links.reduce((sum, link) => sum + (task.tol[(link.split('>')[1] ?? '') as StationId] ?? 0), 0) /
    100
  const uFraction = (id: StationId) => Math.abs((task.u[id] ?? 0) / spanAt(chain, id))
  const [ua, ub] = [uFraction(from), uFraction(to)]
  const points: Point[] = levels.map((l) => {
    const [a, b] = [l.values[from] ?? 0, l.values[to] ?? 0]
    const phi = fractionAt(chain, from, a)
    const F = segment.law(phi)
    const s = Math.hypot(ub, (segment.law(phi + ua) - segment.law(phi - ua)) / 2)
    const cens = to === 'CNT' ? (b >= chain.nmax ? 1 : b <= chain.nmin ? -1 : 0) : 0
    return { F, r: fractionAt(chain, to, b), s, dir: l.dir, cens }
  })
  const levelStates = points.map((p): SegmentState => {
    const res = Math.abs(p.r - p.F)
    return res + 2 * p.s <= T ? 'WITHIN' : res - 2 * p.s > T ? 'OUT' : 'INDETERMINATE'
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
    explanation: state === 'WITHIN' ? null : explain({ chain, segment, points }, T),
    neededU_pct:
      state === 'INDETERMINATE'
        ? Math.min(...open.map((p) => 100 * Math.abs(T - Math.abs(p.r - p.F))))
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
  const segments = observed.slice(1).flatMap((to): SegmentResult[] => {
    const i = observed.indexOf(to)
    // The nearest observed station that this one really follows from: a display in the loop skips the card.
    for (let k = i - 1; k >= 0; k--) {
      const from = observed[k]
      if (from && linksBetween(task.chain, from, to)) {
        const r = judge(task, from, to)
        return r ? [r] : []
      }
    }
    return []
  })
  const [first, last] = [observed[0], observed.at(-1)]
  const endToEnd = first && last && first !== last ? judge(task, first, last) : null
  const firstOut = segments.find((s) => s.state === 'OUT') ?? null
  return {
    segments,
    firstOut,
    endToEnd,
    addedUp: segments.length > 1 && segments.every((s) => s.state === 'WITHIN') && endToEnd?.state === 'OUT',
  }
}
