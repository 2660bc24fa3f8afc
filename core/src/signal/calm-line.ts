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

/** Room that stays above and below, as a share of half the height. */
const EDGE = 0.9
const STEP = 0.8

/**
 * The product's line: flat where everything agrees, stepping where an error comes in, the step's height
 * following the square root of the error and capped. Up is high, down is low. The one geometry of it: on
 * screen, in lists and on paper.
 * @param placeOf - where a station stands, as a share of the line; null where it is not on it
 * @returns corner points in a box of the given size, from left to right: two for every step.
 */
export function calmLine(
  steps: readonly CalmStep[],
  width: number,
  height: number,
  placeOf: (station: StageKind) => number | null = (station) => STATION_SHARE[station],
): [number, number][] {
  const mid = height / 2
  const points: [number, number][] = [[0, mid]]
  let level = 0
  const placed = steps.flatMap((step) => {
    const at = placeOf(step.station)
    return at === null ? [] : [{ at, error_pct: step.error_pct }]
  })
  for (const { at, error_pct } of placed.sort((a, b) => a.at - b.at)) {
    const x = at * width
    points.push([x, mid - level * mid])
    const size = Math.sqrt(Math.min(CAP_PCT, Math.abs(error_pct)) / CAP_PCT) * STEP
    level = Math.max(-EDGE, Math.min(EDGE, level + Math.sign(error_pct) * size))
    points.push([x, mid - level * mid])
  }
  points.push([width, mid - level * mid])
  return points
}
/** Height of the line at a share of its length, behind a step that stands there. */
export const heightAt = (points: readonly (readonly [number, number])[], x: number): number =>
  points.findLast(([px]) => px <= x)?.[1] ?? 0
