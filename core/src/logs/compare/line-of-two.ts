import { inflation, neighbourCorrelation } from '../correlation.ts'

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

const uncertaintiesOf = ({ W, spread, meanX }: ReturnType<typeof yorkStep>) => {
  const uGain = 1 / Math.sqrt(spread)
  return { uGain, uOffset: Math.sqrt(1 / W + (meanX * uGain) ** 2) }
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
  return { offset: end.offset, gain, ...uncertaintiesOf(end), chi2 }
}

/**
 * The line between two series whose errors stand in a known ratio (Deming), with the scatter of both as found.
 * @param ratio - variance of the error of a by that of b
 * @returns null for fewer than three, or where nothing moves together
 */
export function demingLine(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  ratio: number,
): (LineOfTwo & { readonly residual: number }) | null {
  const n = a.length
  if (n < 3) return null
  let [ma, mb] = [0, 0]
  for (let i = 0; i < n; i++) {
    ma += a[i] ?? 0
    mb += b[i] ?? 0
  }
  ma /= n
  mb /= n
  let [saa, sbb, sab] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    const [x, y] = [(b[i] ?? 0) - mb, (a[i] ?? 0) - ma]
    saa += y * y
    sbb += x * x
    sab += x * y
  }
  // What is left of a level by rounding is no movement.
  if (!(sbb > DUST * n * mb * mb) || !(Math.abs(sab) > DUST * n * Math.abs(ma * mb))) return null
  const lean = saa - ratio * sbb
  const gain = (lean + Math.sqrt(lean * lean + 4 * ratio * sab * sab)) / (2 * sab)
  const offset = ma - gain * mb
  const e = new Float64Array(n)
  let squares = 0
  for (let i = 0; i < n; i++) {
    e[i] = (a[i] ?? 0) - offset - gain * (b[i] ?? 0)
    squares += (e[i] ?? 0) ** 2
  }
  const residual = Math.sqrt(squares / (n - 2))
  if (!(residual > 0)) return { offset, gain, uOffset: 0, uGain: 0, residual: 0 }
  const ua = residual * Math.sqrt(ratio / (ratio + gain * gain))
  const ub = ua / Math.sqrt(ratio)
  const points = Array.from({ length: n }, (_, i) => ({ x: b[i] ?? 0, y: a[i] ?? 0, ux: ub, uy: ua }))
  const { uGain, uOffset } = uncertaintiesOf(yorkStep(points, gain))
  const wider = Math.sqrt(inflation(neighbourCorrelation(e)))
  return { offset, gain, uOffset: uOffset * wider, uGain: uGain * wider, residual }
}
