import type { LogView } from '@calm/contract/logs'

export interface Point {
  readonly x: number
  readonly y: number
}

/**
 * The points that a view is drawn with: for each pixel one upright stroke from its smallest to its largest value,
 * joined to the next; nothing over a gap.
 * @param gapAbove - ms; a longer step between samples is a gap
 */
export function pointsOf(view: LogView, gapAbove: number): Point[] {
  const points: Point[] = []
  if (view.kind === 'samples') {
    view.t.forEach((behind, i) => {
      const x = view.from + behind
      const last = view.t[i - 1]
      const before = last === undefined ? undefined : view.from + last
      if (before !== undefined && gapAbove > 0 && x - before > gapAbove)
        points.push({ x: before + 1, y: NaN })
      points.push({ x, y: view.min[i] ?? NaN })
    })
    return points
  }
  const wide = (view.to - view.from) / view.min.length
  let last = NaN
  view.min.forEach((min, i) => {
    const x = view.from + (i + 0.5) * wide
    const max = view.max[i]
    if (min === null || max === null || max === undefined) {
      // Pixels narrower than the pace of the samples are empty between two of them: no gap.
      if (gapAbove === 0 || !isNear(view, i, gapAbove / wide)) points.push({ x, y: NaN })
      return
    }
    const [near, far] = Math.abs(last - max) < Math.abs(last - min) ? [max, min] : [min, max]
    points.push({ x, y: near })
    if (far !== near) points.push({ x, y: far })
    last = far
  })
  return points
}

/** Whether the pixels with values on both sides of an empty one are no more apart than samples are. */
function isNear(view: LogView, at: number, pixels: number): boolean {
  let [a, b] = [at, at]
  while (a >= 0 && view.min[a] === null) a--
  while (b < view.min.length && view.min[b] === null) b++
  return a >= 0 && b < view.min.length && b - a <= pixels
}
