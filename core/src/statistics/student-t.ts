import { bisect } from '../numeric/bisect.ts'
import { normalQuantile } from './normal.ts'

const LANCZOS = [
  676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406, 12.507343278686905,
  -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
]
/** Natural logarithm of the gamma function, x > 0. */
export function lnGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - lnGamma(1 - x)
  const y = x - 1
  const sum = LANCZOS.reduce((s, g, i) => s + g / (y + i + 1), 0.9999999999998099)
  const t = y + 7.5
  return 0.5 * Math.log(2 * Math.PI) + (y + 0.5) * Math.log(t) - t + Math.log(sum)
}

/** Regularised incomplete beta function by its continued fraction. */
export function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0
  if (x >= 1) return 1
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a)
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x)) / a
  const tiny = 1e-300
  let c = 1
  let d = 1 - ((a + b) * x) / (a + 1)
  d = 1 / (Math.abs(d) < tiny ? tiny : d)
  let f = d
  for (let m = 1; m < 500; m++) {
    for (const n of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 + n * d
      d = 1 / (Math.abs(d) < tiny ? tiny : d)
      c = 1 + n / c
      if (Math.abs(c) < tiny) c = tiny
      f *= c * d
    }
    if (Math.abs(c * d - 1) < 1e-15) break
  }
  return front * f
}

export const studentCdf = (t: number, nu: number): number => {
  const tail = incompleteBeta(nu / (nu + t * t), nu / 2, 0.5) / 2
  return t < 0 ? tail : 1 - tail
}

/** Beyond this many degrees of freedom the normal distribution serves. */
const MANY = 1e6

/**
 * The t below which Student's distribution lies with probability p.
 * @param nu - degrees of freedom, above 0; infinite is the normal distribution.
 */
export function studentQuantile(p: number, nu: number): number {
  if (nu > MANY) return normalQuantile(p)
  if (p < 0.5) return -studentQuantile(1 - p, nu)
  let hi = 2
  while (studentCdf(hi, nu) < p && hi < 1e12) hi *= 2
  return bisect((t) => studentCdf(t, nu) >= p, 0, hi, 0)
}

/** What "k = 2" means as a level of confidence. */
export const TWO_SIGMA = 0.9545

/**
 * Coverage factor at 95.45 %: exactly 2 for practically infinite degrees of freedom; a part of a degree does not count.
 * @see JCGM 100:2008, G.4.1 and G.6.4
 */
export const coverageFactor = (nu: number): number =>
  nu > MANY ? 2 : studentQuantile((1 + TWO_SIGMA) / 2, Math.max(1, Math.floor(nu)))
