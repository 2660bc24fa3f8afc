import { mean } from '../numeric/mean.ts'
import type { Direction } from './plan.ts'

/** One error of a series, in percent of span, at a level in percent of the documented range. */
export interface SeriesPoint {
  readonly level_pct: number
  readonly direction: Direction
  readonly error_pct: number
}

/** The parts an error curve is made of, all in percent of span. */
export interface ErrorComponents {
  /** The line through the lowest and highest level means, at 0 %. */
  readonly zero_pct: number
  /** The rise of that line over 100 %. */
  readonly span_pct: number
  /** Signed largest deviation of the level means from that line. */
  readonly terminalLinearity_pct: number
  /** Half the width of the narrowest band of parallel lines around the level means. */
  readonly independentLinearity_pct: number
  /** Largest mean(down) - mean(up) at one level, signed; null without both directions. */
  readonly hysteresis_pct: number | null
  /** Largest range of readings at one level and direction; null with fewer than three cycles. */
  readonly repeatability_pct: number | null
}

const larger = (a: number, b: number) => (Math.abs(b) > Math.abs(a) ? b : a)

interface Level {
  readonly level_pct: number
  readonly up: number[]
  readonly down: number[]
}

/** Readings of one level belong together when their applied inputs differ by less than this much of span. */
const SAME_LEVEL_PCT = 2

function levelsOf(points: readonly SeriesPoint[]): Level[] {
  const levels: { sum: number; n: number; up: number[]; down: number[] }[] = []
  for (const p of [...points].sort((a, b) => a.level_pct - b.level_pct)) {
    let level = levels.at(-1)
    if (!level || p.level_pct - level.sum / level.n > SAME_LEVEL_PCT) {
      level = { sum: 0, n: 0, up: [], down: [] }
      levels.push(level)
    }
    level.sum += p.level_pct
    level.n += 1
    level[p.direction].push(p.error_pct)
  }
  return levels.map((l) => ({ level_pct: l.sum / l.n, up: l.up, down: l.down }))
}

/**
 * Takes a series of errors apart into zero, span, linearity, hysteresis and repeatability.
 * @returns null with fewer than two levels: a line needs two.
 * @see IEC 61298-2 for the terms
 */
export function errorComponents(points: readonly SeriesPoint[]): ErrorComponents | null {
  const levels = levelsOf(points)
  if (levels.length < 2) return null
  const means = levels.map((l) => ({
    x: l.level_pct,
    y: mean([l.up, l.down].filter((d) => d.length > 0).map(mean)),
  }))
  const first = means[0]
  const last = means.at(-1)
  if (!first || !last) return null
  const slope = (last.y - first.y) / (last.x - first.x)
  const zero = first.y - slope * first.x
  const both = levels.filter((l) => l.up.length > 0 && l.down.length > 0)
  const repeats = levels.flatMap((l) => [l.up, l.down]).filter((d) => d.length >= 3)
  return {
    zero_pct: zero,
    span_pct: 100 * slope,
    terminalLinearity_pct: means.map((m) => m.y - (zero + slope * m.x)).reduce(larger, 0),
    independentLinearity_pct: narrowestHalfBand(means),
    hysteresis_pct: both.length === 0 ? null : both.map((l) => mean(l.down) - mean(l.up)).reduce(larger, 0),
    repeatability_pct:
      repeats.length === 0 ? null : Math.max(...repeats.map((d) => Math.max(...d) - Math.min(...d))),
  }
}

/** Minimax line: over the slopes through every pair of means, the smallest half range of what is left. */
function narrowestHalfBand(means: readonly { x: number; y: number }[]): number {
  let best = Infinity
  for (let i = 0; i < means.length; i++)
    for (let j = i + 1; j < means.length; j++) {
      const a = means[i]
      const b = means[j]
      if (!a || !b) continue
      const k = (b.y - a.y) / (b.x - a.x)
      const left = means.map((m) => m.y - k * m.x)
      best = Math.min(best, (Math.max(...left) - Math.min(...left)) / 2)
    }
  return best
}
