import { cholesky, solve } from '../../numeric/cholesky.ts'
import { normalCdf } from '../../statistics/normal.ts'
import {
  componentsOf,
  compositeShapes,
  eligibleShapes,
  WEIGHTS,
  type Component,
  type Point,
  type Reported,
  type Shape,
  type ShapeContext,
  type SimpleShape,
} from './shapes.ts'

export interface RankedShape {
  readonly shape: Shape
  readonly P: number
  readonly quantities: readonly Reported[]
  /** Expected reading of the best component at a fraction, with its fitted numbers. */
  readonly predict: (F: number) => number
}
export interface Explanation {
  readonly state: 'NEED_MORE' | 'NONE' | 'RANKED'
  /** 0.8 named, 0.5 likely, else undecided; unknown where none of the known mistakes makes these readings; null where nothing was ranked. */
  readonly answer: 'named' | 'likely' | 'undecided' | 'unknown' | null
  readonly ranked: readonly RankedShape[]
  /** Fractions at which a further reading would tell most, with how much; best first. */
  readonly lookNext: readonly { readonly u: number; readonly S: number }[]
}

const NAMED = 0.8
const LIKELY = 0.5
const LEAST_RIVAL = 0.1
const MOST_POINTS = 20
const STEEPEST = 10
const IMPLAUSIBLE = -1e9
/** What a limit may be off by, as far as nobody wrote it down, a fraction. */
const MOST_LIMIT_SLACK = 0.003
const LEAST_SIGMA = 1e-6
const LEAST_CHANCE = 1e-9

const logSumExp = (xs: readonly number[]): number => {
  const top = Math.max(...xs)
  return top === -Infinity ? top : top + Math.log(xs.reduce((s, x) => s + Math.exp(x - top), 0))
}

interface Fit {
  readonly lnL: number
  readonly theta: readonly number[]
}
/** A component where it acts: on what stands there, with the limits that lie behind it. */
interface Placed {
  readonly component: Component
  readonly points: readonly Point[]
  readonly low: number
  readonly high: number
}

/** Slope of a component's mean law at a point, held; 0 where stuck, clamped or cut off. */
const slopeAt = (c: Component, F: number, i: number): number =>
  c.flat?.(i) ? 0 : Math.min(STEEPEST, Math.abs(c.mean(F + 1e-4, i) - c.mean(F - 1e-4, i)) / 2e-4)

/**
 * What is allowed at a point, as it comes out under a component. Before a root or table a tolerance counts with its
 * reach, not with the slope of the bend: at the zero of a root that has none.
 */
function allowedAt(c: Component, p: Point, i: number, { segment, Tin = 0 }: ShapeContext, T: number): number {
  if (c.flat?.(i)) return 0
  const { bend } = segment
  const behind = (T - Tin) * slopeAt(c, p.F, i)
  const { x } = p
  if (!bend || Tin === 0 || x === undefined) return behind + Tin * slopeAt(c, p.F, i)
  const out = (at: number) => (c.inner ? bend.G(c.inner(at)) : c.mean(bend.G(at), i))
  return behind + Math.max(Math.abs(out(x + Tin) - out(x)), Math.abs(out(x - Tin) - out(x)))
}

/** How near a limit a reading stands at it. */
const limitNear = (p: Point, T: number): number => 2 * p.s + Math.min(T, MOST_LIMIT_SLACK)
/** Which limit a reading stands at: 1 the upper, -1 the lower, 0 none. */
function limitOf({ component, low, high }: Placed, p: Point, i: number, T: number): 0 | 1 | -1 {
  // What is stuck, clamped or unknown does not come from a law that a limit would hold.
  if (component.flat?.(i) || component.scatter !== undefined) return 0
  const near = limitNear(p, T)
  return Math.abs(p.r - high) <= near ? 1 : Math.abs(p.r - low) <= near ? -1 : 0
}

/** How likely the readings are under one component, and its numbers that fit best. */
function fit(placed: Placed, context: ShapeContext, T: number): Fit {
  const { component: c, points, low, high } = placed
  const sides = points.map((p, i) => limitOf(placed, p, i, T))
  const allowed = points.map((p, i) => allowedAt(c, p, i, context, T))
  const used = points.flatMap((p, i) => (sides[i] === 0 ? [{ p, i, t: allowed[i] ?? 0 }] : []))
  const n = used.length
  const J = c.columns.map((column) => used.map(({ p, i }) => column(p.F, i)))
  const e = used.map(({ p, i }) => p.r - c.mean(p.F, i))
  const scatter = (c.scatter ?? 0) ** 2
  const C = used.map((a, i) =>
    used.map((b, j) => {
      // Benign zero, span and scatter inside the tolerance go along with every shape.
      let v = ((a.t * b.t) / 9) * (1 + a.p.F * b.p.F)
      if (i === j) v += a.p.s ** 2 + (a.t / 6) ** 2 + scatter
      J.forEach((column, k) => (v += (column[i] ?? 0) * (c.variances[k] ?? 0) * (column[j] ?? 0)))
      return v
    }),
  )
  const L = cholesky(C)
  const z = solve(L, e)
  const lnDet = L.reduce((s, row, i) => s + 2 * Math.log(row[i] ?? 1), 0)
  let lnL =
    -e.reduce((s, x, i) => s + x * (z[i] ?? 0), 0) / 2 -
    lnDet / 2 -
    (n / 2) * Math.log(2 * Math.PI) +
    Math.log(c.weight)
  const theta = J.map(
    (column, k) => (c.variances[k] ?? 0) * column.reduce((s, x, i) => s + x * (z[i] ?? 0), 0),
  )
  if (c.clamp) {
    const { clamped, kind } = c.clamp
    const level = 0.5 + (theta[0] ?? 0)
    const slack = 3 * (points.reduce((s, p) => s + p.s, 0) / points.length + T)
    const inside = points.filter((_, i) => clamped.has(i)).map((p) => p.F)
    const outside = points.filter((_, i) => !clamped.has(i)).map((p) => p.F)
    const plausible =
      kind === 'HI'
        ? Math.max(...outside) - slack <= level && level <= Math.min(...inside) + slack
        : Math.max(...inside) - slack <= level && level <= Math.min(...outside) + slack
    if (!plausible) lnL = IMPLAUSIBLE
  }
  // A reading at a limit says that what would have come out lies at it or behind it, and that the limit is there.
  points.forEach((p, i) => {
    const side = sides[i] ?? 0
    if (side === 0) return
    const clip = side > 0 ? high : low
    const t = allowed[i] ?? 0
    const free = c.columns.reduce(
      (s, col, k) => s + col(p.F, i) ** 2 * (n === 0 ? (c.variances[k] ?? 0) : 0),
      0,
    )
    const predicted = c.mean(p.F, i) + c.columns.reduce((s, col, k) => s + col(p.F, i) * (theta[k] ?? 0), 0)
    const sigma = Math.sqrt(p.s ** 2 + (t * t) / 9 + free) || LEAST_SIGMA
    const width = Math.hypot(p.s, Math.min(T, MOST_LIMIT_SLACK) / 2)
    lnL +=
      Math.log(Math.max(normalCdf((side * (predicted - clip)) / sigma), LEAST_CHANCE)) -
      ((p.r - clip) / width) ** 2 / 2 -
      Math.log(width * Math.sqrt(2 * Math.PI))
  })
  return { lnL, theta }
}

const allowedHere = (p: Point, T: number): number => p.T ?? T
/** The state that the residuals alone give. */
function stateOf(points: readonly Point[], T: number): 'within' | 'out' | 'open' {
  const off = (p: Point) => Math.abs(p.r - p.F)
  if (points.every((p) => off(p) + 2 * p.s <= allowedHere(p, T))) return 'within'
  return points.some((p) => off(p) - 2 * p.s > allowedHere(p, T)) ? 'out' : 'open'
}
/** Readings that stand still while what is expected moves: stuck before anything with a factor. */
function standStill(points: readonly Point[], T: number): boolean {
  const r = points.map((p) => p.r)
  const F = points.map((p) => p.F)
  const still = 4 * Math.max(...points.map((p) => p.s))
  return (
    Math.max(...r) - Math.min(...r) <= still && Math.max(...F) - Math.min(...F) > Math.max(10 * T, 2 * still)
  )
}
const SENDS_ZERO: ReadonlySet<SimpleShape> = new Set<SimpleShape>(['LIVE0_TX', 'LIVE0_TX_IN'])
const STILL: ReadonlySet<SimpleShape> = new Set<SimpleShape>(['STUCK', 'UNKNOWN'])

const LOOK = Array.from({ length: 21 }, (_, i) => i / 20)

/** Where a further reading parts the leading shapes best. */
function lookNext(ranked: readonly RankedShape[], s: number, T: number): { u: number; S: number }[] {
  const leading = ranked.filter((r) => r.shape !== 'UNKNOWN').slice(0, 4)
  const width = 8 * (s * s + (T / 3) ** 2)
  return LOOK.map((u) => {
    let S = 0
    for (let h = 0; h < leading.length; h++)
      for (let k = h + 1; k < leading.length; k++) {
        const [a, b] = [leading[h], leading[k]]
        if (!a || !b) continue
        const delta = a.predict(u) - b.predict(u)
        S += a.P * b.P * (1 - Math.exp((-delta * delta) / width))
      }
    return { u, S }
  }).sort((a, b) => b.S - a.S || b.u - a.u)
}

/**
 * Names the mistake from readings: which law the observed fractions follow, against every law that the links of
 * the segment can bring.
 * @param T - tolerance of the segment as a fraction of span.
 */
export function explain(context: ShapeContext, T: number): Explanation {
  const { points } = context
  const nothing = { answer: null, ranked: [], lookNext: [] } as const
  if (points.length < 2 || points.length > MOST_POINTS) return { state: 'NEED_MORE', ...nothing }
  const state = stateOf(points, T)
  if (state === 'within') return { state: 'NONE', ...nothing }
  const candidates = candidatesOf(context, T, state === 'open', standStill(points, T))
  const scored = candidates.map(({ shape, weight, placed }) => {
    const fits = placed.map((c) => fit(c, context, T))
    const best = fits.reduce((b, f, i) => (f.lnL > (fits[b]?.lnL ?? -Infinity) ? i : b), 0)
    const chosen = placed[best]
    const theta = fits[best]?.theta ?? []
    return {
      shape,
      lnE: Math.log(weight) + logSumExp(fits.map((f) => f.lnL)),
      quantities: chosen?.component.report?.(theta) ?? [],
      predict: (F: number) => {
        if (!chosen) return F
        const { component, low, high } = chosen
        // A further point is judged where the component itself puts it: clamped where clamped ones lie.
        const i = nearest(points, F)
        const free =
          component.mean(F, i) + component.columns.reduce((s, col, k) => s + col(F, i) * (theta[k] ?? 0), 0)
        return component.flat?.(i) ? free : Math.min(high, Math.max(low, free))
      },
    }
  })
  const total = logSumExp(scored.map((s) => s.lnE))
  const ranked = scored
    .map(({ shape, lnE, quantities, predict }) => ({ shape, P: Math.exp(lnE - total), quantities, predict }))
    // What none of them explains has no name; it stands last, however likely.
    .sort((a, b) => Number(a.shape === 'UNKNOWN') - Number(b.shape === 'UNKNOWN') || b.P - a.P)
  const top = ranked[0]?.P ?? 0
  const unknown = ranked.find((r) => r.shape === 'UNKNOWN')?.P ?? 0
  const s = points.reduce((sum, p) => sum + p.s, 0) / points.length
  return {
    state: 'RANKED',
    answer: unknown > top ? 'unknown' : top >= NAMED ? 'named' : top >= LIKELY ? 'likely' : 'undecided',
    ranked,
    lookNext: lookNext(ranked, s, T),
  }
}

interface Place {
  readonly low: number
  readonly high: number
  readonly context: ShapeContext
  readonly shapes: readonly SimpleShape[]
}
/** Places that the readings can tell apart: where no limit was reached, it is one whether a fault acts before it or behind it. */
function apart(places: readonly Place[], T: number): readonly Place[] {
  const reached = ({ context, low, high }: Place) =>
    context.points.some((p) => {
      const near = limitNear(p, T)
      return p.r >= high - near || p.r <= low + near || p.F >= high || p.F <= low
    })
  if (places.some(reached)) return places
  const [first] = places
  return first ? [{ ...first, shapes: [...new Set(places.flatMap((p) => p.shapes))] }] : []
}

/** Every shape that may be there, with its laws placed where a fault can act. */
function candidatesOf(context: ShapeContext, T: number, mayBeHealthy: boolean, still: boolean) {
  const { points, segment } = context
  const at = (k: number): ShapeContext => ({
    ...context,
    points: points.map((p) => ({ ...p, ...(p.free?.[k] ?? {}) })),
  })
  const zones = apart(
    segment.zones.map((zone, k) => ({
      ...zone,
      context: at(k),
      shapes: eligibleShapes(segment, zone.links),
    })),
    T,
  )
  const shapes = [
    ...(mayBeHealthy ? (['NONE'] as const) : []),
    ...new Set(zones.flatMap((z) => z.shapes)),
    'UNKNOWN' as const,
  ].filter((shape) => !still || STILL.has(shape))
  const candidates: { shape: Shape; weight: number; placed: Placed[] }[] = shapes.map((shape) => {
    const any = shape === 'NONE' || shape === 'UNKNOWN'
    const places = any ? zones.slice(0, 1) : zones.filter((z) => z.shapes.includes(shape))
    return {
      shape,
      weight: WEIGHTS[shape],
      placed: places.flatMap(({ context: c, low: lowest, high }) => {
        // Set to 0-20 mA the output has no lower end at 3.8 mA; those behind it stay.
        const low = SENDS_ZERO.has(shape)
          ? (zones[zones.findIndex((z) => z.context === c) + 1]?.low ?? -Infinity)
          : lowest
        return componentsOf(shape, c).map((component) => ({
          component: { ...component, weight: component.weight / places.length },
          points: c.points,
          low,
          high,
        }))
      }),
    }
  })
  const last = zones.at(-1)
  const twice = last && !still ? compositeShapes(eligibleShapes(segment), last.context) : []
  return [
    ...candidates,
    ...twice.map(({ shape, weight, components }) => ({
      shape,
      weight,
      placed: components.map((component) => ({
        component,
        points: last?.context.points ?? points,
        low: last?.low ?? -Infinity,
        high: last?.high ?? Infinity,
      })),
    })),
  ].filter((c) => c.placed.length > 0)
}

/** Index of the point whose expected fraction is nearest, so that a clamp's side can be told. */
const nearest = (points: readonly Point[], F: number): number =>
  points.reduce((b, p, i) => (Math.abs(p.F - F) < Math.abs((points[b]?.F ?? 0) - F) ? i : b), 0)

/** The first answer and its rivals: what a technician is told. None where no known mistake makes these readings. */
export const toldShapes = (e: Explanation): readonly RankedShape[] =>
  e.answer === 'unknown'
    ? []
    : e.ranked.filter((r, i) => r.shape !== 'UNKNOWN' && (i === 0 || r.P >= LEAST_RIVAL))
