import { cholesky, solve } from '../numeric/cholesky.ts'
import { median } from '../numeric/median.ts'

/** Where along the pipe a sensor hears best, from a few tries. */
export interface BestPosition {
  readonly state: 'FOUND' | 'NEED_MORE' | 'NO_PEAK' | 'OUTSIDE'
  /** Where to go next, in the unit of the positions; null while there are too few tries. */
  readonly best: number | null
  /** The quality to be expected there by the parabola; the reading there decides. */
  readonly expected: number | null
  /** Standard uncertainty of the position; null for fewer than four tries or no peak. */
  readonly u: number | null
}

/**
 * The parabola of least squares through tries of a position, about their mean position.
 * @param tries - position and signal quality of each
 */
export function bestPosition(tries: readonly (readonly [position: number, quality: number])[]): BestPosition {
  const positions = [...new Set(tries.map(([p]) => p))].sort((x, y) => x - y)
  if (positions.length < 3) return { state: 'NEED_MORE', best: null, expected: null, u: null }
  const n = tries.length
  const mean = tries.reduce((s, [p]) => s + p, 0) / n
  // Positions by their spread: the equations stay well-conditioned for millimetres and metres alike.
  const scale = (positions.at(-1) ?? 0) - (positions[0] ?? 0)
  const rows = tries.map(([p, q]) => ({ x: [1, (p - mean) / scale, ((p - mean) / scale) ** 2], q }))
  const cells = [0, 1, 2]
  const sum = (f: (r: (typeof rows)[number]) => number) => rows.reduce((s, r) => s + f(r), 0)
  const L = cholesky(cells.map((i) => cells.map((j) => sum((r) => (r.x[i] ?? 0) * (r.x[j] ?? 0)))))
  const covariance = cells.map((i) =>
    solve(
      L,
      cells.map((j) => (i === j ? 1 : 0)),
    ),
  )
  const tried = tries.reduce((a, b) => (b[1] > a[1] ? b : a))
  const noPeak: BestPosition = { state: 'NO_PEAK', best: tried[0], expected: tried[1], u: null }
  const right = cells.map((i) => sum((r) => (r.x[i] ?? 0) * r.q))
  const [b0 = 0, b1 = 0, b2 = 0] = covariance.map((row) =>
    row.reduce((s, c, j) => s + c * (right[j] ?? 0), 0),
  )
  if (!(b2 < 0)) return noPeak
  const at = -b1 / (2 * b2)
  const best = mean + scale * at
  const residual = sum((r) => (r.q - b0 - b1 * (r.x[1] ?? 0) - b2 * (r.x[2] ?? 0)) ** 2)
  const s2 = n > 3 ? residual / (n - 3) : 0
  // x* = −b1/2b2: its slopes by b1 and b2.
  const [g1, g2] = [-1 / (2 * b2), b1 / (2 * b2 * b2)]
  const c = (i: number, j: number) => covariance[i]?.[j] ?? 0
  const u =
    n >= 4 ? scale * Math.sqrt(s2 * (g1 * g1 * c(1, 1) + 2 * g1 * g2 * c(1, 2) + g2 * g2 * c(2, 2))) : null
  const expected = b0 - (b1 * b1) / (4 * b2)
  const [least = 0, most = 0] = [positions[0], positions.at(-1)]
  if (best >= least && best <= most) return { state: 'FOUND', best, expected, u }
  const step = median(positions.slice(1).map((p, i) => p - (positions[i] ?? 0)))
  return {
    state: 'OUTSIDE',
    best: best < least ? Math.max(best, least - step) : Math.min(best, most + step),
    expected,
    u,
  }
}
