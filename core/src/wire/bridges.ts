import type { DrawnWire } from './drawing.ts'

type Point = readonly [x: number, y: number]

/** Half the width of a bridge, px at scale 1: narrower than half the way between two tracks. */
export const BRIDGE = 5

/**
 * The way of a wire as an SVG path: where it crosses an upright stretch of another wire it goes over it in a small arc,
 * so that a crossing is never taken for a joint. Wires are drawn one over the other where they end at the same place.
 */
export function bridgedPath(wire: DrawnWire, others: readonly DrawnWire[]): string {
  const uprights = others.filter((o) => o.id !== wire.id).flatMap((o) => uprightsOf(o.points))
  return wire.points
    .map((to, i) => {
      const from = wire.points[i - 1]
      if (!from) return `M${to[0]} ${to[1]}`
      return `${from[1] === to[1] ? overCrossings(from, to, uprights) : ''}L${to[0]} ${to[1]}`
    })
    .join('')
}

interface Upright {
  readonly x: number
  readonly low: number
  readonly high: number
}

function uprightsOf(points: readonly Point[]): Upright[] {
  return points.flatMap(([x, y], i) => {
    const before = points[i - 1]
    return before && before[0] === x && before[1] !== y
      ? [{ x, low: Math.min(y, before[1]), high: Math.max(y, before[1]) }]
      : []
  })
}

/** Arcs over every upright that a level stretch crosses; ends that only touch are no crossing. */
function overCrossings([x1, y]: Point, [x2]: Point, uprights: readonly Upright[]): string {
  const way = Math.sign(x2 - x1)
  const [left, right] = [Math.min(x1, x2), Math.max(x1, x2)]
  const at = uprights
    .filter((u) => u.x > left + BRIDGE && u.x < right - BRIDGE && u.low < y - 1 && u.high > y + 1)
    .map((u) => u.x)
    .sort((a, b) => way * (a - b))
  // Two tracks closer than two arcs share one.
  const apart = at.filter((x, i) => i === 0 || Math.abs(x - (at[i - 1] ?? 0)) >= 2 * BRIDGE)
  return apart
    .map(
      (x) => `L${x - way * BRIDGE} ${y}A${BRIDGE} ${BRIDGE} 0 0 ${way > 0 ? 1 : 0} ${x + way * BRIDGE} ${y}`,
    )
    .join('')
}
