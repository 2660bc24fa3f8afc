import type { Chart, Series } from '../chart.ts'
import type { PlanPoint } from './plan.ts'
import { appliedAt, pointErrors, type LoopScale, type PointErrors } from './reading-errors.ts'
import type { Tolerance } from './tolerance.ts'
import type { Judgement } from './verdict.ts'

/** Room beside the range, % of it, and above the largest error, so that no mark sits on the frame. */
const BESIDE_PCT = 5
const ABOVE = 1.2
const LEAST_PCT = 1e-3

const errorsOf = (j: Judgement | null): [number, number][] =>
  (j?.points ?? []).flatMap((p): [number, number][] =>
    p.loop_pct === null ? [] : [[p.level_pct, p.loop_pct]],
  )

/** What is allowed at a level of the output, both in percent. */
export type Allowed = Pick<PointErrors, 'level_pct' | 'allowed_pct'>

/** What a plan allows at each of its points, before anything is read. */
export function allowedOver(
  scale: LoopScale,
  tolerance: Tolerance,
  plan: readonly Pick<PlanPoint, 'index' | 'level_pct' | 'direction'>[],
): Allowed[] {
  return plan.flatMap((p) => {
    const applied = appliedAt(scale, p.level_pct)
    const unread = { pv: null, loopCurrent_mA: null, controller: null }
    return pointErrors(scale, tolerance, { index: p.index, direction: p.direction, applied, ...unread }) ?? []
  })
}

/** What is allowed over the range, carried a little beyond its ends. */
function band(levels: readonly Allowed[]): Series | null {
  const byLevel = new Map(levels.map((p) => [Math.round(p.level_pct * 100) / 100, p.allowed_pct]))
  const sorted = [...byLevel].sort((a, b) => a[0] - b[0])
  const [first, last] = [sorted[0], sorted.at(-1)]
  if (!first || !last) return null
  const points = [[-BESIDE_PCT, first[1]] as const, ...sorted, [100 + BESIDE_PCT, last[1]] as const]
  return { name: 'tolerance', kind: 'band', points, below: points.map(([, t]) => -t) }
}

/**
 * Errors over the range with the tolerance as a band; open marks as found, filled as left.
 * @param agreed - what the plan allows: the band stands before the first reading
 */
export function errorChart(
  asFound: Judgement | null,
  asLeft: Judgement | null,
  agreed: readonly Allowed[] = [],
): Chart {
  const allowed = band([...agreed, ...((asLeft ?? asFound)?.points ?? [])])
  const [found, left] = [errorsOf(asFound), errorsOf(asLeft)]
  const largest = Math.max(
    ...[...found, ...left, ...(allowed?.points ?? [])].map(([, y]) => Math.abs(y)),
    LEAST_PCT,
  )
  const words = [asFound?.sentence, asLeft?.sentence].filter(Boolean).join(' ') || 'No readings yet.'
  return {
    title: 'Error over the range',
    says: `Error over the range. ${words}`,
    x: { label: 'of the range', unit: '%', from: -BESIDE_PCT, to: 100 + BESIDE_PCT, step: 25 },
    y: { label: 'error', unit: '% of span', from: -largest * ABOVE, to: largest * ABOVE },
    series: [
      ...(allowed ? [allowed] : []),
      { name: 'as found', kind: 'points', points: found, open: true },
      { name: 'as left', kind: 'points', points: left },
    ],
  }
}
