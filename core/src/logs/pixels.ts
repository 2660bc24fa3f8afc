/** What one pixel of a plot shows: one upright stroke from min to max; its mean; nulls where there is no sample. */
export interface Pixel {
  readonly min: number | null
  readonly max: number | null
  readonly mean: number | null
  readonly count: number
}

/** Rows that are not parted any more, and pixels between which parting them pays. */
const FEW_ROWS = 8
const NEAR_PIXELS = 2

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
    if (rows.length > 0) this.putBetween(rows, 0, rows.length / 2 - 1)
  }

  /** Rows i..j. Where both ends lie in one pixel, so does each whose time lies between theirs: to ask for it is dear. */
  private putBetween(rows: Float64Array, i: number, j: number): void {
    const [begin, end] = [rows[2 * i] ?? NaN, rows[2 * j] ?? NaN]
    const [a, b] = [this.at(begin), this.at(end)]
    const areTogether = a === b && (a >= 0 || end < this.from || begin > this.to)
    if (!areTogether && j - i > FEW_ROWS && Math.abs(b - a) <= NEAR_PIXELS) {
      const middle = (i + j) >> 1
      this.putBetween(rows, i, middle)
      this.putBetween(rows, middle + 1, j)
      return
    }
    let [min, max] = [Infinity, -Infinity]
    for (let k = i; k <= j; k++) {
      const t = rows[2 * k] ?? NaN
      const value = rows[2 * k + 1] ?? NaN
      if (Number.isNaN(value)) continue
      if (areTogether && t >= begin && t <= end) {
        if (value < min) min = value
        if (value > max) max = value
      } else this.put(this.at(t), value, value)
    }
    if (min <= max) this.put(a, min, max)
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
