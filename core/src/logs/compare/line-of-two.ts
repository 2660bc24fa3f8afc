import { inflation } from '../correlation.ts'
import type { Spread } from './pair-sums.ts'

/** A straight line a = offset + gain·b where both carry errors, with standard uncertainties. */
export interface LineOfTwo {
  readonly offset: number
  readonly gain: number
  readonly uOffset: number
  readonly uGain: number
}

const DUST = 1e-24

interface Point {
  readonly x: number
  readonly y: number
  readonly ux: number
  readonly uy: number
}

/** York's sums at a given gain: the weighted centre, the adjusted x, the next gain. */
function yorkStep(points: readonly Point[], gain: number) {
  let [W, Wx, Wy] = [0, 0, 0]
  const weighed = points.map((p) => {
    const [wx, wy] = [1 / p.ux ** 2, 1 / p.uy ** 2]
    const w = (wx * wy) / (wx + gain * gain * wy)
    W += w
    Wx += w * p.x
    Wy += w * p.y
    return { ...p, wx, wy, w }
  })
  const [mx, my] = [Wx / W, Wy / W]
  let [up, down, betas] = [0, 0, 0]
  const at = weighed.map(({ x, y, wx, wy, w }) => {
    const [u, v] = [x - mx, y - my]
    const beta = w * (u / wy + (gain * v) / wx)
    up += w * beta * v
    down += w * beta * u
    betas += w * beta
    return { w, beta }
  })
  const meanBeta = betas / W
  const spread = at.reduce((s, { w, beta }) => s + w * (beta - meanBeta) ** 2, 0)
  return { next: up / down, offset: my - gain * mx, meanX: mx + meanBeta, W, spread }
}

/**
 * York's line through points that carry their own uncertainties.
 * @returns null for fewer than three points, or where all x are the same
 */
export function yorkLine(points: readonly Point[]): (LineOfTwo & { readonly chi2: number }) | null {
  const x0 = points[0]?.x
  if (points.length < 3 || points.every((p) => p.x === x0)) return null
  let gain = 0
  {
    const n = points.length
    const mx = points.reduce((s, p) => s + p.x, 0) / n
    const my = points.reduce((s, p) => s + p.y, 0) / n
    const sxx = points.reduce((s, p) => s + (p.x - mx) ** 2, 0)
    gain = points.reduce((s, p) => s + (p.x - mx) * (p.y - my), 0) / sxx
  }
  for (let i = 0; i < 500; i++) {
    const { next } = yorkStep(points, gain)
    const moved = Math.abs(next - gain)
    gain = next
    if (moved <= 1e-14 * Math.abs(gain)) break
  }
  const end = yorkStep(points, gain)
  const chi2 = points.reduce(
    (s, p) => s + (p.y - end.offset - gain * p.x) ** 2 / (p.uy ** 2 + (gain * p.ux) ** 2),
    0,
  )
  const uGain = 1 / Math.sqrt(end.spread)
  return { offset: end.offset, gain, uGain, uOffset: Math.sqrt(1 / end.W + (end.meanX * uGain) ** 2), chi2 }
}

/**
 * The line between two series whose errors stand in a known ratio (Deming), with the scatter of both as found. Its
 * uncertainties are those of York's line with equal ones at all points, widened by the likeness of neighbours.
 * @param ratio - variance of the error of a by that of b
 * @returns null for fewer than three, or where nothing moves together
 */
export function demingLine(s: Spread, ratio: number): (LineOfTwo & { readonly residual: number }) | null {
  const { n, meanA: ma, meanB: mb, saa, sbb, sab } = s
  if (n < 3) return null
  // What is left of a level by rounding is no movement.
  if (!(sbb > DUST * n * mb * mb) || !(Math.abs(sab) > DUST * n * Math.abs(ma * mb))) return null
  const lean = saa - ratio * sbb
  const gain = (lean + Math.sqrt(lean * lean + 4 * ratio * sab * sab)) / (2 * sab)
  const offset = ma - gain * mb
  const { squares, r1 } = s.residuals((1 + gain) / 2, 1 - gain)
  const residual = Math.sqrt(squares / (n - 2))
  if (!(residual > 0)) return { offset, gain, uOffset: 0, uGain: 0, residual: 0 }
  const ua2 = (residual * residual * ratio) / (ratio + gain * gain)
  const ub2 = ua2 / ratio
  const w = 1 / (ua2 + gain * gain * ub2)
  // Σ w β² with β = w (u·ua² + gain·v·ub²), u and v being b and a about their means.
  const spread = w ** 3 * (ua2 * ua2 * sbb + 2 * gain * ua2 * ub2 * sab + gain * gain * ub2 * ub2 * saa)
  const uGain = 1 / Math.sqrt(spread)
  const uOffset = Math.sqrt(1 / (n * w) + (mb * uGain) ** 2)
  const wider = Math.sqrt(inflation(r1))
  return { offset, gain, uOffset: uOffset * wider, uGain: uGain * wider, residual }
}
