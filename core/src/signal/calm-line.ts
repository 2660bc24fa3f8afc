import type { StageKind } from './stage.ts'

/** Places along the line where it can step, as shares of its length. */
const STATION_SHARE: Readonly<Record<StageKind, number>> = {
  process: 0.04,
  sensor: 0.28,
  transmitter: 0.4,
  frequency: 0.46,
  totalizer: 0.49,
  output: 0.52,
  isolator: 0.58,
  converter: 0.62,
  shunt: 0.64,
  input: 0.7,
  controller: 0.78,
  display: 0.9,
}

export interface CalmStep {
  readonly station: StageKind
  readonly error_pct: number
}

/** Largest step as a share of half the height; errors above this much of span all look the same. */
const CAP_PCT = 10

/**
 * The product's line: flat where everything agrees, stepping where an error comes in, the step's height
 * following the square root of the error and capped. Up is high, down is low.
 * @returns corner points in a box of the given size, from left to right.
 */
export function calmLine(steps: readonly CalmStep[], width: number, height: number): [number, number][] {
  const mid = height / 2
  const points: [number, number][] = [[0, mid]]
  let level = 0
  const ordered = [...steps].sort((a, b) => STATION_SHARE[a.station] - STATION_SHARE[b.station])
  for (const step of ordered) {
    const x = STATION_SHARE[step.station] * width
    points.push([x, mid - level * mid])
    const size = Math.sqrt(Math.min(CAP_PCT, Math.abs(step.error_pct)) / CAP_PCT) * 0.8
    level = Math.max(-0.9, Math.min(0.9, level + Math.sign(step.error_pct) * size))
    points.push([x, mid - level * mid])
  }
  points.push([width, mid - level * mid])
  return points
}
