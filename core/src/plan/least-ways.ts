import type { Day } from './problem.ts'

/** Where a turn is, and where it ends. */
export interface Whereabouts {
  readonly area: number
  readonly home: number
}

/**
 * The least minutes that all turns together walk to come into every one of some areas, each from where it is to where
 * it ends: which turn goes where, and in which order, is tried in full. No plan of jobs in these areas walks less.
 * Areas are those of the day's jobs, a bit for each.
 */
export class LeastWays {
  private readonly d: Day
  private readonly areas: readonly number[]
  private readonly rounds = new Map<number, Float64Array>()
  private readonly shared = new Map<string, number>()

  constructor(d: Day) {
    this.d = d
    this.areas = [...new Set(d.jobs.map((j) => j.area))]
  }

  /** The bit of an area; 0 where no job is. */
  bitOf(area: number): number {
    const at = this.areas.indexOf(area)
    return at < 0 ? 0 : 1 << at
  }

  /** @param mask - areas into which somebody has to come */
  minutes(turns: readonly Whereabouts[], mask: number): number {
    let key = `${mask}`
    for (const t of turns) key += ` ${t.area} ${t.home}`
    const known = this.shared.get(key)
    if (known !== undefined) return known
    /** The least of the turns so far, by what they have come into. */
    let least = new Map<number, number>([[0, 0]])
    for (const t of turns) {
      const round = this.round(t)
      const next = new Map<number, number>()
      for (const [done, minutes] of least) {
        const left = mask & ~done
        for (let more = left; ; more = (more - 1) & left) {
          const sum = minutes + (round[more] ?? 0)
          if (sum < (next.get(done | more) ?? Infinity)) next.set(done | more, sum)
          if (more === 0) break
        }
      }
      least = next
    }
    const minutes = least.get(mask) ?? 0
    this.shared.set(key, minutes)
    return minutes
  }

  /** The shortest way of one turn through each set of areas, to its end. */
  private round(t: Whereabouts): Float64Array {
    const key = t.area * this.d.areas.length + t.home
    const known = this.rounds.get(key)
    if (known) return known
    const n = this.areas.length
    const way = (a: number, b: number) => this.d.walk[a]?.[b] ?? 0
    const areaOf = (i: number) => this.areas[i] ?? 0
    /** The shortest through a set that ends in one of its areas. */
    const through = new Float64Array(n << n).fill(Infinity)
    const out = new Float64Array(1 << n).fill(Infinity)
    out[0] = way(t.area, t.home)
    for (let i = 0; i < n; i++) through[(1 << i) * n + i] = way(t.area, areaOf(i))
    for (let mask = 1; mask < 1 << n; mask++)
      for (let last = 0; last < n; last++) {
        const minutes = through[mask * n + last] ?? Infinity
        if (minutes === Infinity) continue
        out[mask] = Math.min(out[mask] ?? Infinity, minutes + way(areaOf(last), t.home))
        for (let i = 0; i < n; i++) {
          if (mask & (1 << i)) continue
          const at = (mask | (1 << i)) * n + i
          through[at] = Math.min(through[at] ?? Infinity, minutes + way(areaOf(last), areaOf(i)))
        }
      }
    this.rounds.set(key, out)
    return out
  }
}
