/** What one pixel of a plot shows: one upright stroke from min to max; its mean; nulls where there is no sample. */
export interface Pixel {
  readonly min: number | null
  readonly max: number | null
  readonly mean: number | null
  readonly count: number
}

/** The upright strokes of a plot being filled by single samples and whole chunks: Infinity, −Infinity where there is none. */
export class Strokes {
  readonly min: Float64Array
  readonly max: Float64Array
  private readonly width_ms: number
  readonly from: number
  readonly to: number
  readonly width: number

  constructor(from: number, to: number, width: number) {
    this.from = from
    this.to = to
    this.width = width
    this.width_ms = (to - from) / width
    this.min = new Float64Array(width).fill(Infinity)
    this.max = new Float64Array(width).fill(-Infinity)
  }

  /** The pixel of a time; −1 outside the view. The view's end belongs to its last pixel. */
  at(t: number): number {
    if (!(t >= this.from && t <= this.to)) return -1
    return Math.min(this.width - 1, Math.floor((t - this.from) / this.width_ms))
  }

  /** Puts samples of a known minimum and maximum into one pixel. */
  put(pixel: number, min: number, max: number): void {
    if (pixel < 0) return
    if (min < (this.min[pixel] ?? 0)) this.min[pixel] = min
    if (max > (this.max[pixel] ?? 0)) this.max[pixel] = max
  }

  /** Puts single samples. @param rows - time and value of each, one after the other; NaN: no value */
  putRows(rows: Float64Array): void {
    for (let i = 0; i < rows.length; i += 2) {
      const value = rows[i + 1] ?? NaN
      if (!Number.isNaN(value)) this.put(this.at(rows[i] ?? NaN), value, value)
    }
  }
}

/**
 * The samples from..to by pixels: true minimum and maximum of each, never a neighbour's.
 * @param t - ms, in any order
 * @param v - null: no sample
 */
export function pixelsOf(
  t: ArrayLike<number>,
  v: ArrayLike<number | null>,
  from: number,
  to: number,
  width: number,
): Pixel[] {
  const strokes = new Strokes(from, to, width)
  const [mean, counts] = [new Float64Array(width), new Float64Array(width)]
  for (let i = 0; i < t.length; i++) {
    const x = v[i]
    const pixel = strokes.at(t[i] ?? NaN)
    if (x === null || x === undefined || pixel < 0) continue
    strokes.put(pixel, x, x)
    const count = (counts[pixel] ?? 0) + 1
    const was = mean[pixel] ?? 0
    counts[pixel] = count
    mean[pixel] = was + (x - was) / count
  }
  return Array.from(counts, (count, i) =>
    count === 0
      ? { min: null, max: null, mean: null, count }
      : { min: strokes.min[i] ?? 0, max: strokes.max[i] ?? 0, mean: mean[i] ?? 0, count },
  )
}
