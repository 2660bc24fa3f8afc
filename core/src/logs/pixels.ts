/** What one pixel of a plot shows: one upright stroke from min to max; its mean; nulls where there is no sample. */
export interface Pixel {
  readonly min: number | null
  readonly max: number | null
  readonly mean: number | null
  readonly count: number
}

/** Pixels of a plot being filled by single samples and whole chunks. */
export class Pixels {
  readonly min: Float64Array
  readonly max: Float64Array
  readonly mean: Float64Array
  readonly count: Float64Array
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
    this.mean = new Float64Array(width)
    this.count = new Float64Array(width)
  }

  /** The pixel of a time; −1 outside the view. The view's end belongs to its last pixel. */
  at(t: number): number {
    if (!(t >= this.from && t <= this.to)) return -1
    return Math.min(this.width - 1, Math.floor((t - this.from) / this.width_ms))
  }

  /** Puts `count` samples of a known minimum, maximum and mean into one pixel. */
  put(pixel: number, count: number, min: number, max: number, mean: number): void {
    if (pixel < 0) return
    if (min < (this.min[pixel] ?? 0)) this.min[pixel] = min
    if (max > (this.max[pixel] ?? 0)) this.max[pixel] = max
    const all = (this.count[pixel] ?? 0) + count
    const was = this.mean[pixel] ?? 0
    this.mean[pixel] = was + ((mean - was) * count) / all
    this.count[pixel] = all
  }

  shown(): Pixel[] {
    return Array.from(this.count, (count, i) =>
      count === 0
        ? { min: null, max: null, mean: null, count }
        : { min: this.min[i] ?? 0, max: this.max[i] ?? 0, mean: this.mean[i] ?? 0, count },
    )
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
  const pixels = new Pixels(from, to, width)
  for (let i = 0; i < t.length; i++) {
    const x = v[i]
    if (x !== null && x !== undefined) pixels.put(pixels.at(t[i] ?? NaN), 1, x, x, x)
  }
  return pixels.shown()
}
