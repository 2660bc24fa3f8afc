import { cholesky, solve } from '../../numeric/cholesky.ts'
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
  /** 0.8 named, 0.5 likely, else undecided; null where nothing was ranked. */
  readonly answer: 'named' | 'likely' | 'undecided' | null
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
const CENSORED_PENALTY = 12

const logSumExp = (xs: readonly number[]): number => {
  const top = Math.max(...xs)
  return top === -Infinity ? top : top + Math.log(xs.reduce((s, x) => s + Math.exp(x - top), 0))
}

interface Fit {
  readonly lnL: number
  readonly theta: readonly number[]
}

/** Slope of a component's mean law at a point, held; 0 where stuck, clamped or cut off. */
const slopeAt = (c: Component, F: number, i: number): number =>
  c.flat?.(i) ? 0 : Math.min(STEEPEST, Math.abs(c.mean(F + 1e-4, i) - c.mean(F - 1e-4, i)) / 2e-4)

/** How likely the readings are under one component, and its numbers that fit best. */
function fit(c: Component, { points, chain }: ShapeContext, T: number): Fit {
  const used = points.flatMap((p, i) => (p.cens === 0 ? [{ p, i }] : []))
  const n = used.length
  const D = used.map(({ p, i }) => slopeAt(c, p.F, i))
  const J = c.columns.map((column) => used.map(({ p, i }) => column(p.F, i)))
  const e = used.map(({ p, i }) => p.r - c.mean(p.F, i))
  const scatter = (c.scatter ?? 0) ** 2
  const C = used.map((a, i) =>
    used.map((b, j) => {
      // Benign zero, span and scatter inside the tolerance go along with every shape.
      let v = (T / 3) ** 2 * (D[i] ?? 0) * (D[j] ?? 0) * (1 + a.p.F * b.p.F)
      if (i === j) v += a.p.s ** 2 + (((D[i] ?? 0) * T) / 6) ** 2 + scatter
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
  points.forEach((p, i) => {
    if (p.cens === 0) return
    const code = p.cens > 0 ? chain.nmax : chain.nmin
    const clip = (code - chain.n4) / (chain.n20 - chain.n4)
    const predicted = c.mean(p.F, i) + c.columns.reduce((s, col, k) => s + col(p.F, i) * (theta[k] ?? 0), 0)
    if ((clip - predicted) * p.cens > 3 * (p.s + T)) lnL -= CENSORED_PENALTY
  })
  return { lnL, theta }
}

/** The state that the residuals alone give. */
function stateOf(points: readonly Point[], T: number): 'within' | 'out' | 'open' {
  const used = points.filter((p) => p.cens === 0)
  const off = (p: Point) => Math.abs(p.r - p.F)
  if (used.length === points.length && used.every((p) => off(p) + 2 * p.s <= T)) return 'within'
  return used.some((p) => off(p) - 2 * p.s > T) ? 'out' : 'open'
}

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
  if (points.length < 2 || points.length > MOST_POINTS || points.every((p) => p.cens !== 0))
    return { state: 'NEED_MORE', ...nothing }
  const state = stateOf(points, T)
  if (state === 'within') return { state: 'NONE', ...nothing }
  const eligible = eligibleShapes(context.segment).filter((s) => s !== 'NONE' || state === 'open')
  const candidates: { shape: Shape; weight: number; components: Component[] }[] = [
    ...eligible.map((shape) => ({
      shape,
      weight: WEIGHTS[shape],
      components: componentsOf(shape, context),
    })),
    ...compositeShapes(eligible, context),
  ].filter((c) => c.components.length > 0)
  const scored = candidates.map(({ shape, weight, components }) => {
    const fits = components.map((c) => fit(c, context, T))
    const best = fits.reduce((b, f, i) => (f.lnL > (fits[b]?.lnL ?? -Infinity) ? i : b), 0)
    const component = components[best]
    const theta = fits[best]?.theta ?? []
    return {
      shape,
      lnE: Math.log(weight) + logSumExp(fits.map((f) => f.lnL)),
      quantities: component?.report?.(theta) ?? [],
      predict: (F: number) => {
        if (!component) return F
        // A further point is judged where the component itself puts it: clamped where clamped ones lie.
        const i = nearest(points, F)
        return (
          component.mean(F, i) + component.columns.reduce((s, col, k) => s + col(F, i) * (theta[k] ?? 0), 0)
        )
      },
    }
  })
  const total = logSumExp(scored.map((s) => s.lnE))
  const ranked = scored
    .map(({ shape, lnE, quantities, predict }) => ({ shape, P: Math.exp(lnE - total), quantities, predict }))
    .sort((a, b) => b.P - a.P)
  const top = ranked[0]?.P ?? 0
  const s = points.reduce((sum, p) => sum + p.s, 0) / points.length
  return {
    state: 'RANKED',
    answer: top >= NAMED ? 'named' : top >= LIKELY ? 'likely' : 'undecided',
    ranked,
    lookNext: lookNext(ranked, s, T),
  }
}

/** Index of the point whose expected fraction is nearest, so that a clamp's side can be told. */
const nearest = (points: readonly Point[], F: number): number =>
  points.reduce((b, p, i) => (Math.abs(p.F - F) < Math.abs((points[b]?.F ?? 0) - F) ? i : b), 0)

/** The first answer and its rivals: what a technician is told. */
export const toldShapes = (e: Explanation): readonly RankedShape[] =>
  e.ranked.filter((r, i) => i === 0 || r.P >= LEAST_RIVAL)
