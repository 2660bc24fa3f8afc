import type { Strapping } from './strapping.ts'

/** A row whose volume does not fit between its neighbours. */
export interface StrappingSlip {
  /** Counted from 1, as in the table. */
  readonly row: number
  readonly level: number
  readonly volume: number
  /** What the rows around it make likely. */
  readonly likely: number
}

/** An area between two rows this far from those around it, one too large and the next too small, is a slip. */
const FAR = 1.6

const middle = (x: readonly number[]): number => {
  const sorted = x.slice().sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? NaN
}

/**
 * Rows with a digit typed wrong: the tank would be wide below them and narrow above, or the other way round, and as
 * before on both sides. A tank that only changes its shape does not do that.
 * @param table - rising, in any units
 */
export function strappingSlips(table: Strapping): StrappingSlip[] {
  const area = table.slice(1).map(([h, v], i) => (v - (table[i]?.[1] ?? 0)) / (h - (table[i]?.[0] ?? 0)))
  const out: StrappingSlip[] = []
  for (let i = 1; i < area.length; i++) {
    const around = [area[i - 3], area[i - 2], area[i + 1], area[i + 2]].filter((a) => a !== undefined)
    if (around.length < 2) continue
    const usual = middle(around)
    // Where the tank changes by itself nothing can be said.
    if (around.some((a) => a > usual * FAR || a < usual / FAR)) continue
    const [below = 0, above = 0] = [area[i - 1], area[i]]
    const slip = (below > usual * FAR && above < usual / FAR) || (below < usual / FAR && above > usual * FAR)
    const [h0, v0] = table[i - 1] ?? [0, 0]
    const [h, v] = table[i] ?? [0, 0]
    const [h1, v1] = table[i + 1] ?? [0, 0]
    if (slip) out.push({ row: i + 1, level: h, volume: v, likely: v0 + ((v1 - v0) * (h - h0)) / (h1 - h0) })
  }
  return out
}
