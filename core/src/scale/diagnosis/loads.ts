import { BETWEEN, density } from './grid.ts'

/** Resistors that lie in a workshop, Ω. */
const RESISTORS = [100, 120, 124, 125, 220, 240, 249, 250, 270, 300, 499, 500]
/** What the shunt is in the loop, as a share of what is documented, and how far around that. */
export interface Load {
  readonly k: number
  readonly sd: number
  readonly weight: number
}
const LISTED = 0.3
const PARALLEL = 0.3
/** A value that is only a little off, and one that nobody lists. */
export const NEAR_SHUNT = [
  { sd: 0.02, weight: 0.3 },
  { sd: 0.1, weight: 0.1 },
] as const
/** Other resistors that are about, and second loads beside it: from a fifth of it to a hundred times, evenly by their logarithm. */
export function otherLoads(shunt: number): readonly Load[] {
  const listed = RESISTORS.filter((R) => R !== shunt)
  const [from, to, n] = [Math.log(0.2), Math.log(100), 30]
  const step = (to - from) / (n - 1)
  return [
    ...listed.map((R) => ({ k: R / shunt, sd: 0, weight: LISTED / listed.length })),
    ...Array.from({ length: n }, (_, i) => {
      const beside = Math.exp(from + step * i)
      const k = beside / (1 + beside)
      return { k, sd: (k / (1 + beside)) * step * BETWEEN, weight: PARALLEL / n }
    }),
  ]
}
/** A normal number cut into pieces, where its law is no line. */
export function nearLoads(): readonly Load[] {
  const [reach, n] = [4, 17]
  return NEAR_SHUNT.flatMap(({ sd, weight }) =>
    Array.from({ length: n }, (_, i) => {
      const step = (2 * reach * sd) / (n - 1)
      const k = 1 - reach * sd + i * step
      return { k, sd: step * BETWEEN, weight: weight * density(k, 1, sd) * step }
    }),
  )
}
