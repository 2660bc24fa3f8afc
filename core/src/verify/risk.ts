import { normalCdf, normalDensity, normalQuantile } from '../statistics/normal.ts'

/** Probability that the true value is out of tolerance, from the error read and its standard uncertainty. @see JCGM 106 */
export function probabilityOut(e: number, T: number, u: number): number {
  if (u <= 0) return Math.abs(e) <= T ? 0 : 1
  return 1 - (normalCdf((T - e) / u) - normalCdf((-T - e) / u))
}

export interface GlobalRisk {
  readonly falseAccept: number
  readonly falseReject: number
}
const PANELS = 4000

function simpson(f: (y: number) => number, a: number, b: number): number {
  if (!(b > a)) return 0
  const h = (b - a) / PANELS
  let sum = f(a) + f(b)
  for (let i = 1; i < PANELS; i++) sum += f(a + i * h) * (i % 2 === 1 ? 4 : 2)
  return (sum * h) / 3
}

/**
 * Risks over the whole population of devices.
 * @param A - acceptance limit; T for simple acceptance, T − U with a guard band.
 * @param u0 - spread of the population about y0.
 */
export function globalRisk(T: number, A: number, um: number, u0: number, y0 = 0): GlobalRisk {
  const accepted = (y: number) => normalCdf((A - y) / um) - normalCdf((-A - y) / um)
  const density = (y: number) => normalDensity((y - y0) / u0) / u0
  const cuts = [y0 - 10 * u0, -T, -A, A, T, y0 + 10 * u0].sort((a, b) => a - b)
  let [falseAccept, falseReject] = [0, 0]
  for (let i = 1; i < cuts.length; i++) {
    const [a = 0, b = 0] = [cuts[i - 1], cuts[i]]
    const inside = Math.abs((a + b) / 2) <= T
    if (inside) falseReject += simpson((y) => density(y) * (1 - accepted(y)), a, b)
    else falseAccept += simpson((y) => density(y) * accepted(y), a, b)
  }
  return { falseAccept, falseReject }
}
/** Spread of a population of which this share is in tolerance. */
export const spreadOfPopulation = (T: number, inTolerance: number): number =>
  T / normalQuantile((1 + inTolerance) / 2)
