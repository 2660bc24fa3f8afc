import { BETWEEN } from './grid.ts'
import type { Segment } from './links.ts'
import type { Component, Point } from './shapes.ts'

/** Shares of a step that may be missing, looked at evenly by their logarithm. */
const [LEAST_LAG, MOST_LAG, LAGS] = [0.02, 0.6, 14]
/** What is read in this order, each before its last share of the step had come. */
function behind(values: readonly number[], share: number): number[] {
  let at = values[0] ?? 0
  return values.map((v) => (at = v + share * (at - v)))
}
/** Read before it had settled: behind by the same share of each step, before a bend or after it. */
export function lagging(points: readonly Point[], { bend }: Segment): Component[] {
  const F = points.map((p) => p.F)
  const x = bend ? points.map((p) => p.x ?? bend.inverse(p.F)) : []
  const after = (share: number) => behind(F, share)
  const laws = bend ? [after, (share: number) => behind(x, share).map(bend.G)] : [after]
  const step = Math.log(MOST_LAG / LEAST_LAG) / (LAGS - 1)
  return Array.from({ length: LAGS }, (_, i) => LEAST_LAG * Math.exp(i * step)).flatMap((share) =>
    laws.map((law): Component => {
      const sd = share * step * BETWEEN
      const [at, more, less] = [law(share), law(share + sd), law(share - sd)]
      return {
        weight: 1 / (LAGS * laws.length),
        mean: (f, i) => f + (at[i] ?? 0) - (F[i] ?? 0),
        columns: [(_f, i) => ((more[i] ?? 0) - (less[i] ?? 0)) / (2 * sd)],
        variances: [sd * sd],
        report: ([by = 0]) => [{ label: 'lagPctOfStep', value: 100 * (share + by) }],
      }
    }),
  )
}
