import { bisect } from '../numeric/bisect.ts'
const SQRT_PI = Math.sqrt(Math.PI)

/** Complementary error function for x ≥ 3 by its continued fraction, evaluated from behind. */
function erfcFar(x: number): number {
  let f = 0
  for (let k = 120; k > 0; k--) f = k / 2 / (x + f)
  return Math.exp(-x * x) / (SQRT_PI * (x + f))
}

/** Error function to 1e-12: its series below 3, a continued fraction above. */
export function erf(x: number): number {
  if (x < 0) return -erf(-x)
  if (x >= 3) return 1 - erfcFar(x)
  let term = x
  let sum = x
  for (let n = 1; n < 200 && Math.abs(term) > 1e-17; n++) {
    term *= (-x * x) / n
    sum += term / (2 * n + 1)
  }
  return (2 / SQRT_PI) * sum
}

/** Probability that a standard normal is below z. */
export function normalCdf(z: number): number {
  const x = z / Math.SQRT2
  if (x <= -3) return erfcFar(-x) / 2
  return (1 + erf(x)) / 2
}

export const normalDensity = (z: number): number => Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)

/** The z below which a standard normal lies with probability p; p strictly between 0 and 1. */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) return p <= 0 ? -Infinity : Infinity
  return bisect((z) => normalCdf(z) >= p, -40, 40, 1e-14)
}
