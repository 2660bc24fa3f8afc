import type { Sighted } from './check.ts'
import { type Day, type Placed, placedOf, type Placing } from './problem.ts'

/** Placings in numbers, each with the names that nobody knows. */
export const sightedOf = (d: Day, placings: readonly Placing[]): Sighted[] =>
  placings.map((p) => {
    const n = placedOf(d, p)
    const unknown = [
      ...(n.job < 0 ? [p.job] : []),
      ...(n.person < 0 ? [p.person] : []),
      ...(p.helper !== null && n.helper < 0 ? [p.helper] : []),
      ...p.instruments.filter((_, i) => (n.instruments[i] ?? -1) < 0),
    ]
    return { ...n, says: { job: p.job, unknown } }
  })

export const known = (d: Day, placed: readonly Placed[]): Sighted[] =>
  placed.map((p) => ({ ...p, says: { job: d.jobs[p.job]?.id ?? '', unknown: [] } }))
