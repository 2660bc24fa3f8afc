/** Softplus that never overflows. */
const sp = (z: number): number => Math.max(z, 0) + Math.log1p(Math.exp(-Math.abs(z)))

const sig = (z: number): number => {
  if (z >= 0) return 1 / (1 + Math.exp(-z))
  const e = Math.exp(z)
  return e / (1 + e)
}

/** The one smooth clamp: x between lo and hi, flat outside, rounded over a few k. All regulators, limiters and drops use it. */
export const knee = (x: number, lo: number, hi: number, k: number): number =>
  lo + k * (sp((x - lo) / k) - sp((x - hi) / k))

/** Slope of the clamp, never negative: every law built on it is monotone. */
export const kneeSlope = (x: number, lo: number, hi: number, k: number): number =>
  sig((x - lo) / k) - sig((x - hi) / k)
