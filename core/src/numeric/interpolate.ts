/** Index of the last row whose x is not above a value, among all but the last; rows rise in x. Found by halving. */
export function rowBelow(rows: readonly (readonly number[])[], x: number, column = 0): number {
  let [lo, hi] = [0, Math.max(0, rows.length - 2)]
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1
    if ((rows[mid]?.[column] ?? 0) <= x) lo = mid
    else hi = mid - 1
  }
  return lo
}

/** A value between two points of a straight line, or beyond them on the same line. */
export const between = (x: number, x0: number, y0: number, x1: number, y1: number): number =>
  x1 === x0 ? y0 : y0 + ((x - x0) * (y1 - y0)) / (x1 - x0)

/** y at x by straight lines between rows that rise in x; the end pieces go on beyond the ends. */
export function interpolate(rows: readonly (readonly [x: number, y: number])[], x: number): number {
  const i = rowBelow(rows, x)
  const [x0, y0] = rows[i] ?? [0, 0]
  const [x1, y1] = rows[i + 1] ?? [x0, y0]
  return between(x, x0, y0, x1, y1)
}
