/** Enough for any interval of doubles: halving that often leaves two neighbours. */
const MOST_HALVINGS = 1100
/** Two numbers this close, relative to their size, are neighbours as doubles go. */
const NEIGHBOURS = 2 * Number.EPSILON

/**
 * Where a condition becomes true in an interval, by halving.
 *
 * It stops at the absolute width asked for, or where the interval is as narrow as numbers of that size can be:
 * around 1e30 no width of 1e-10 exists, and a loop that waits for it never ends.
 * @param isBeyond - false at `from` and true at `to`, changing once in between
 * @param from, to - ends of the interval, in one unit; `from` is not above `to`
 * @param close - width at which the answer is good enough, in the same unit
 * @returns middle of the last interval
 */
export function bisect(isBeyond: (x: number) => boolean, from: number, to: number, close: number): number {
  let [lo, hi] = [from, to]
  for (let i = 0; i < MOST_HALVINGS; i++) {
    if (!(hi - lo > Math.max(close, NEIGHBOURS * Math.max(Math.abs(lo), Math.abs(hi))))) break
    // Halves first: the sum of two large numbers may overflow.
    const mid = lo / 2 + hi / 2
    if (isBeyond(mid)) hi = mid
    else lo = mid
  }
  return lo / 2 + hi / 2
}
