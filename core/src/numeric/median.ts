/** The k-th smallest number (0 the smallest), by partial sorting; `xs` is put in another order. */
function kthSmallest(xs: Float64Array, k: number): number {
  let [lo, hi] = [0, xs.length - 1]
  while (lo < hi) {
    const pivot = xs[(lo + hi) >> 1] ?? 0
    let [i, j] = [lo, hi]
    while (i <= j) {
      while ((xs[i] ?? 0) < pivot) i++
      while ((xs[j] ?? 0) > pivot) j--
      if (i > j) break
      const held = xs[i] ?? 0
      xs[i++] = xs[j] ?? 0
      xs[j--] = held
    }
    if (k <= j) hi = j
    else if (k >= i) lo = i
    else break
  }
  return xs[k] ?? NaN
}

/** Median, in the unit of the numbers; of an even number the mean of the middle two; NaN of none. Linear in n. */
export function median(numbers: ArrayLike<number>): number {
  const xs = Float64Array.from(numbers)
  const half = xs.length >> 1
  const upper = kthSmallest(xs, half)
  if (xs.length % 2 === 1 || xs.length === 0) return upper
  let lower = -Infinity
  for (let i = 0; i < half; i++) lower = Math.max(lower, xs[i] ?? 0)
  return (lower + upper) / 2
}

/** Percentile of numbers in rising order by linear interpolation at p(n − 1). */
export function percentileOf(sorted: ArrayLike<number>, percent: number): number {
  const at = (percent / 100) * (sorted.length - 1)
  const i = Math.floor(at)
  const lower = sorted[i] ?? NaN
  return lower + (at - i) * ((sorted[i + 1] ?? lower) - lower)
}

/** Median absolute deviation about the median × 1.4826: the standard deviation where the numbers are normal. */
export function robustDeviation(numbers: ArrayLike<number>): number {
  const m = median(numbers)
  // Array.from calls back for each number: ten times as slow.
  const apart = Float64Array.from(numbers)
  for (let i = 0; i < apart.length; i++) apart[i] = Math.abs((apart[i] ?? 0) - m)
  return 1.4826 * median(apart)
}
