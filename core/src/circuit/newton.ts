import { flow, slope, type Law } from './branch.ts'

/** A branch between node numbers; node -1 is the 0 V reference. */
export interface Placed {
  readonly a: number
  readonly b: number
  readonly law: Law
}

export type Settled =
  | {
      readonly kind: 'settled'
      readonly voltages: Float64Array
      readonly currents: Float64Array
      readonly iterations: number
    }
  | { readonly kind: 'unsettled'; readonly residual_A: number }

const GMIN = 1e-12
const MOST_ITERATIONS = 400
const LARGEST_MOVE_V = 50
const MOST_HALVINGS = 60
/** Afterwards no node may be out of balance by more than this, plus what doubles cannot tell at the stiffest branch. */
const BALANCED_A = 1e-9
const ROUNDING = 8 * Number.EPSILON

/** Solves J d = r in place by elimination with partial pivoting; false when J is singular. */
export function eliminate(J: Float64Array, r: Float64Array, n: number): boolean {
  for (let k = 0; k < n; k++) {
    let p = k
    for (let i = k + 1; i < n; i++) if (Math.abs(J[i * n + k] ?? 0) > Math.abs(J[p * n + k] ?? 0)) p = i
    const pivot = J[p * n + k] ?? 0
    if (pivot === 0) return false
    if (p !== k) {
      for (let j = k; j < n; j++) {
        const t = J[k * n + j] ?? 0
        J[k * n + j] = J[p * n + j] ?? 0
        J[p * n + j] = t
      }
      const t = r[k] ?? 0
      r[k] = r[p] ?? 0
      r[p] = t
    }
    for (let i = k + 1; i < n; i++) {
      const f = (J[i * n + k] ?? 0) / pivot
      if (f === 0) continue
      for (let j = k + 1; j < n; j++) J[i * n + j] = (J[i * n + j] ?? 0) - f * (J[k * n + j] ?? 0)
      r[i] = (r[i] ?? 0) - f * (r[k] ?? 0)
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    let s = r[i] ?? 0
    for (let j = i + 1; j < n; j++) s -= (J[i * n + j] ?? 0) * (r[j] ?? 0)
    r[i] = s / (J[i * n + i] ?? 1)
  }
  return true
}

/**
 * Modified nodal analysis with Newton's method and a monotone line search.
 *
 * Every law is non-decreasing, so along a Newton step the sum of step times residual only rises: halving
 * until it is nearly zero makes the method converge from anywhere.
 * @param nodes - number of nodes without the reference.
 */
export function settle(nodes: number, branches: readonly Placed[]): Settled {
  const sources = branches.filter((b) => b.law.kind === 'V')
  const n = nodes + sources.length
  const x = new Float64Array(n)
  const F = new Float64Array(n)
  const J = new Float64Array(n * n)
  let largest_A = 0
  let largest_S = 0

  const u = (b: Placed, at: Float64Array) => (b.a < 0 ? 0 : (at[b.a] ?? 0)) - (b.b < 0 ? 0 : (at[b.b] ?? 0))
  const bump = (M: Float64Array, i: number, v: number) => {
    M[i] = (M[i] ?? 0) + v
  }
  /** Residuals at x, and the Jacobian unless `onlyF`; `soft` makes every bent law 1 mS for the first guess. */
  function build(at: Float64Array, onlyF: boolean, soft: boolean): void {
    F.fill(0)
    if (!onlyF) J.fill(0)
    largest_A = 0
    if (!onlyF) largest_S = 0
    for (let k = 0; k < nodes; k++) {
      bump(F, k, GMIN * (at[k] ?? 0))
      if (!onlyF) bump(J, k * n + k, GMIN)
    }
    let row = nodes
    for (const b of branches) {
      if (b.law.kind === 'V') {
        const j = at[row] ?? 0
        F[row] = u(b, at) - b.law.e
        if (b.a >= 0) bump(F, b.a, j)
        if (b.b >= 0) bump(F, b.b, -j)
        if (!onlyF) {
          if (b.a >= 0) {
            bump(J, b.a * n + row, 1)
            bump(J, row * n + b.a, 1)
          }
          if (b.b >= 0) {
            bump(J, b.b * n + row, -1)
            bump(J, row * n + b.b, -1)
          }
        }
        row += 1
        continue
      }
      const law =
        soft && (b.law.kind === 'K' || b.law.kind === 'D') ? ({ kind: 'G', g: 1e-3 } as const) : b.law
      const drop = u(b, at)
      const i = flow(law, drop)
      if (i > largest_A) largest_A = i
      else if (-i > largest_A) largest_A = -i
      if (b.a >= 0) bump(F, b.a, i)
      if (b.b >= 0) bump(F, b.b, -i)
      if (onlyF) continue
      const g = slope(law, drop)
      if (g === 0) continue
      if (g > largest_S) largest_S = g
      if (b.a >= 0) bump(J, b.a * n + b.a, g)
      if (b.b >= 0) bump(J, b.b * n + b.b, g)
      if (b.a >= 0 && b.b >= 0) {
        bump(J, b.a * n + b.b, -g)
        bump(J, b.b * n + b.a, -g)
      }
    }
  }
  const residual = () => {
    let worst = 0
    for (let k = 0; k < nodes; k++) worst = Math.max(worst, Math.abs(F[k] ?? 0))
    return worst
  }

  build(x, false, true)
  const first = F.map((f) => -f)
  if (!eliminate(J, first, n)) return { kind: 'unsettled', residual_A: Infinity }
  x.set(first)

  const trial = new Float64Array(n)
  const d = new Float64Array(n)
  let iterations = 0
  for (; iterations < MOST_ITERATIONS; iterations++) {
    build(x, false, false)
    const worst = residual()
    const bound = 1e-13 + 1e-12 * largest_A
    for (let k = 0; k < n; k++) d[k] = -(F[k] ?? 0)
    if (!eliminate(J, d, n)) return { kind: 'unsettled', residual_A: worst }
    // The residual at x is still in F: the sum at the step's start costs no evaluation.
    let phi0 = 0
    for (let k = 0; k < nodes; k++) phi0 += (d[k] ?? 0) * (F[k] ?? 0)
    phi0 = Math.abs(phi0)
    let step = 0
    for (let k = 0; k < nodes; k++) step = Math.max(step, Math.abs(d[k] ?? 0))
    if (worst < bound && step < 1e-6) break
    const phi = (alpha: number): number => {
      for (let k = 0; k < n; k++) trial[k] = (x[k] ?? 0) + alpha * (d[k] ?? 0)
      build(trial, true, false)
      let s = 0
      for (let k = 0; k < nodes; k++) s += (d[k] ?? 0) * (F[k] ?? 0)
      return s
    }
    const most = Math.min(1, LARGEST_MOVE_V / (step || 1))
    let alpha = most
    if (!(phi(most) <= 0.1 * phi0)) {
      let lo = 0
      let hi = most
      for (let h = 0; h < MOST_HALVINGS; h++) {
        alpha = (lo + hi) / 2
        const p = phi(alpha)
        if (Math.abs(p) <= 0.1 * phi0) break
        if (p < 0) lo = alpha
        else hi = alpha
      }
    }
    for (let k = 0; k < n; k++) x[k] = (x[k] ?? 0) + alpha * (d[k] ?? 0)
    if (alpha * step < 1e-13) break
  }
  build(x, true, false)
  const worst = residual()
  const highest_V = x.subarray(0, nodes).reduce((m, v) => Math.max(m, Math.abs(v)), 0)
  if (!(worst < BALANCED_A + ROUNDING * largest_S * highest_V))
    return { kind: 'unsettled', residual_A: worst }
  const currents = new Float64Array(branches.length)
  let row = nodes
  branches.forEach((b, k) => {
    currents[k] = b.law.kind === 'V' ? (x[row++] ?? 0) : flow(b.law, u(b, x))
  })
  return { kind: 'settled', voltages: x.slice(0, nodes), currents, iterations }
}
