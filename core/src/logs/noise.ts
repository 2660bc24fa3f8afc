import { median } from '../numeric/median.ts'

/** Scatter of a series about a slowly moving value, from the differences of its neighbours. */
export interface Noise {
  /** Standard deviation as if neighbours were independent. */
  readonly noiseDiff: number
  /** Likeness of neighbours, 0 to 0.99. */
  readonly phi: number
  /** Standard deviation about a slowly moving value. */
  readonly noise: number
}

/** The smallest step between neighbours that is not 0: the resolution of the series; 0 where nothing moves. */
export function smallestStep(x: ArrayLike<number>): number {
  let g = Infinity
  for (let i = 1; i < x.length; i++) {
    const d = Math.abs((x[i] ?? 0) - (x[i - 1] ?? 0))
    if (d > 0 && d < g) g = d
  }
  return g === Infinity ? 0 : g
}

/** Level of the squared differences k apart: the median over chunks, so that steps and spikes hardly count. */
function levelOfDifferences(x: ArrayLike<number>, k: number, g: number, scale?: ArrayLike<number>): number {
  const n = x.length
  const c = Math.min(64, Math.max(24, Math.floor(n / 10)))
  const means: number[] = []
  for (let from = 0; from + c <= n; from += c) {
    let sum = 0
    for (let i = from; i + k < from + c; i++) {
      const d = ((x[i + k] ?? 0) - (x[i] ?? 0)) / (scale?.[i] ?? 1)
      sum += d * d
    }
    if (sum > 0) means.push(sum / (c - k))
  }
  if (means.length === 0) return 0
  const nu = (c - k) / 1.5
  const level = median(means) / (1 - 2 / (9 * nu)) ** 3
  const rounding = (g * g) / 6
  return rounding < level / 2 ? level - rounding : level
}

/** φ of which 1 + φ + … + φ⁷ is the ratio of two levels of differences. */
function phiOf(ratio: number): number {
  if (!(ratio > 1)) return 0
  const sum = (phi: number) => (1 - phi ** 8) / (1 - phi)
  if (ratio >= sum(0.99)) return 0.99
  let [lo, hi] = [0, 0.99]
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2
    if (sum(mid) < ratio) lo = mid
    else hi = mid
  }
  return (lo + hi) / 2
}

/**
 * Noise of a series, in its unit, from differences 1 and 8 samples apart.
 * @param scale - what each difference is divided by where the noise is known to change; absent: 1
 */
export function noiseOf(x: ArrayLike<number>, scale?: ArrayLike<number>): Noise {
  const g = smallestStep(x)
  const d1 = levelOfDifferences(x, 1, g, scale)
  const phi = d1 > 0 ? phiOf(levelOfDifferences(x, 8, g, scale) / d1) : 0
  return { noiseDiff: Math.sqrt(d1 / 2), phi, noise: Math.sqrt(d1 / (2 * (1 - phi))) }
}
