import { bisect } from '../numeric/bisect.ts'
/** Points of a transmitter's table, as fractions of level and of full volume, and the largest error between them. */
export interface Characterization {
  readonly points: readonly (readonly [level: number, volume: number])[]
  /** Largest error, fraction of full volume. */
  readonly error: number
  /** The same for as many equal steps. */
  readonly equalStepsError: number
}

const GRID = 600 // steps at which the first placement is sought
const FINE = 20_000 // steps of the table that the refining reads
const STILL = 1e-7 // fraction of level: knots that move less stand still
const MOST_SWEEPS = 400
/** A knot is found to this share of the axis. */
const CLOSE = 1e-9

/** The curve as a table of many straight steps, cheap to read a million times. */
function tabulate(v: (x: number) => number): Float64Array {
  const table = new Float64Array(FINE + 1)
  const full = v(1)
  for (let i = 0; i <= FINE; i++) table[i] = v(i / FINE) / full
  return table
}
const read = (t: Float64Array, x: number): number => {
  const p = Math.min(FINE - 1, Math.max(0, Math.floor(x * FINE)))
  const a = t[p] ?? 0
  return a + ((t[p + 1] ?? 0) - a) * (x * FINE - p)
}

/** Largest distance between the chord from a to b and the curve. */
function chordError(t: Float64Array, a: number, b: number): number {
  const [va, vb] = [read(t, a), read(t, b)]
  const slope = (vb - va) / (b - a)
  let worst = 0
  for (let i = Math.ceil(a * FINE); i <= b * FINE; i++) {
    const d = Math.abs(va + slope * (i / FINE - a) - (t[i] ?? 0))
    if (d > worst) worst = d
  }
  return worst
}
const largest = (t: Float64Array, knots: readonly number[]): number =>
  knots.slice(1).reduce((w, b, i) => Math.max(w, chordError(t, knots[i] ?? 0, b)), 0)

/** First placement: among equal steps, the knots with the smallest largest error. */
function place(t: Float64Array, segments: number): number[] {
  const v = Float64Array.from({ length: GRID + 1 }, (_, i) => read(t, i / GRID))
  const e = (i: number, j: number): number => {
    const slope = ((v[j] ?? 0) - (v[i] ?? 0)) / (j - i)
    let worst = 0
    for (let k = i + 1; k < j; k++) {
      const d = Math.abs((v[i] ?? 0) + slope * (k - i) - (v[k] ?? 0))
      if (d > worst) worst = d
    }
    return worst
  }
  const width = GRID + 1
  const error = new Float64Array(width * width)
  for (let i = 0; i < GRID; i++) for (let j = i + 1; j <= GRID; j++) error[i * width + j] = e(i, j)
  let best = Float64Array.from({ length: width }, (_, j) => error[j] ?? 0)
  const from: Int32Array[] = [new Int32Array(width)]
  for (let s = 2; s <= segments; s++) {
    const next = new Float64Array(width).fill(Infinity)
    const origin = new Int32Array(width)
    for (let j = s; j <= GRID; j++)
      for (let i = s - 1; i < j; i++) {
        const worst = Math.max(best[i] ?? Infinity, error[i * width + j] ?? Infinity)
        if (worst < (next[j] ?? 0)) {
          next[j] = worst
          origin[j] = i
        }
      }
    best = next
    from.push(origin)
  }
  const knots = [GRID]
  let j = GRID
  for (let s = segments; s >= 2; s--) {
    j = from[s - 1]?.[j] ?? 0
    knots.push(j)
  }
  return [...knots, 0].reverse().map((k) => k / GRID)
}

/** Moves each inner knot until the errors on both its sides are equal, again and again. */
function refine(t: Float64Array, start: readonly number[]): number[] {
  const knots = [...start]
  for (let sweep = 0; sweep < MOST_SWEEPS; sweep++) {
    let moved = 0
    for (let k = 1; k < knots.length - 1; k++) {
      const [a, b] = [knots[k - 1] ?? 0, knots[k + 1] ?? 1]
      const next = bisect((x) => chordError(t, a, x) >= chordError(t, x, b), a, b, CLOSE)
      moved = Math.max(moved, Math.abs(next - (knots[k] ?? 0)))
      knots[k] = next
    }
    if (moved < STILL) break
  }
  return largest(t, knots) < largest(t, start) ? knots : [...start]
}

/**
 * Best places for the points of a transmitter that joins them by straight lines: the smallest largest error with
 * every point on the true curve and both ends included, so that each row can be checked on site.
 *
 * Takes one to four seconds; keep it off the page's thread.
 * @param volume - volume (any unit) over the level fraction 0..1, rising.
 * @param points - how many rows, 3 or more.
 */
export function characterize(volume: (level: number) => number, points: number): Characterization {
  const t = tabulate(volume)
  const segments = points - 1
  const knots = refine(t, place(t, segments))
  return {
    points: knots.map((x) => [x, read(t, x)] as const),
    error: largest(t, knots),
    equalStepsError: largest(
      t,
      Array.from({ length: points }, (_, i) => i / segments),
    ),
  }
}
