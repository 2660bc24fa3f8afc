/**
 * Correlation of neighbours of a series whose mean is taken out, corrected for its length, from 0 to 0.99.
 * @param e - residuals, in the order of time
 */
export function neighbourCorrelation(e: ArrayLike<number>): number {
  const n = e.length
  let [products, squares] = [0, 0]
  for (let i = 0; i < n; i++) {
    const x = e[i] ?? 0
    squares += x * x
    if (i + 1 < n) products += x * (e[i + 1] ?? 0)
  }
  return correlationOf(products, squares, n)
}

/** The same of n residuals from the sum of products of neighbours and that of squares. */
export function correlationOf(products: number, squares: number, n: number): number {
  if (!(squares > 0)) return 0
  const r = products / squares
  return Math.min(0.99, Math.max(0, r + (1 + 4 * r) / n))
}

/** By how much the variance of a mean grows because neighbours are alike: (1 + r)/(1 − r). */
export const inflation = (r1: number): number => (1 + r1) / (1 - r1)
