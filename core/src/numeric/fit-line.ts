/** A straight line through points by least squares: y = meanY + slope·(x − meanX). */
export interface FittedLine {
  readonly slope: number
  readonly meanX: number
  readonly meanY: number
  /** Sum of squares of x about its mean. */
  readonly sxx: number
  /** Scatter about the line, squares over n − 2; 0 for fewer than three points. */
  readonly scatter: number
  readonly at: (x: number) => number
  /** Where the line has a value; null where it is level. */
  readonly where: (y: number) => number | null
}

/** Least squares of y over x; null where all x are the same, or there are none. */
export function fitLine(points: readonly (readonly [x: number, y: number])[]): FittedLine | null {
  const n = points.length
  let [sumX, sumY] = [0, 0]
  for (const [x, y] of points) {
    sumX += x
    sumY += y
  }
  const [meanX, meanY] = [sumX / n, sumY / n]
  let [sxx, sxy] = [0, 0]
  for (const [x, y] of points) {
    sxx += (x - meanX) ** 2
    sxy += (x - meanX) * (y - meanY)
  }
  if (!(sxx > 0)) return null
  const slope = sxy / sxx
  let rss = 0
  for (const [x, y] of points) rss += (y - meanY - slope * (x - meanX)) ** 2
  return {
    slope,
    meanX,
    meanY,
    sxx,
    scatter: n > 2 ? Math.sqrt(rss / (n - 2)) : 0,
    at: (x) => meanY + slope * (x - meanX),
    where: (y) => (slope === 0 ? null : meanX + (y - meanY) / slope),
  }
}
