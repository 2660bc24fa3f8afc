import { describe, expect, test } from 'vitest'
import { partsChart, trimEffect } from './parts-chart.ts'
import { namedPlan } from './plan.ts'
import { judge } from './verdict.ts'
import type { LoopScale } from './reading-errors.ts'
import { loopScale } from './reading-errors.ts'
import { defaultPath } from '../loop/default-path.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range })) as LoopScale
/** Readings of a transmitter with these errors, % of span; `withCurrent` false: only the controller was read. */
function judged(zero: number, output: number, withCurrent = true) {
  const readings = [0, 25, 50, 75, 100].map((level, index) => {
    const x = (80 * level) / 100
    const pv = x + 0.8 * zero
    const mA = 4 + 16 * (pv / 80 + output / 100)
    return {
      index,
      direction: 'up' as const,
      applied: x,
      pv: withCurrent ? pv : null,
      loopCurrent_mA: withCurrent ? mA : null,
      controller: (80 * (mA - 4)) / 16,
    }
  })
  const j = judge({
    scale,
    tolerance: { mode: 'max', pctSpan: 0.2, pctReading: 0, abs: 0 },
    plan: namedPlan('P5'),
    readings,
    U_pct: 0.04,
    phase: 'asFound',
  })
  if (!j) throw new Error('no judgement')
  return j
}

describe('where an error comes from', () => {
  test('each part is a line of its own, the largest is named', () => {
    const chart = partsChart(judged(0.4, -0.05))
    expect(chart?.series.map((s) => s.name)).toEqual(['Sensor', 'Output', 'Receiver'])
    expect(chart?.series[0]?.points.map(([, e]) => Number(e.toFixed(6)))).toEqual([0.4, 0.4, 0.4, 0.4, 0.4])
    expect(chart?.says).toMatch(/largest part is the sensor, 0\.400 %/)
  })
  test('with the controller alone there are no parts to show', () => {
    expect(partsChart(judged(0.4, 0, false))).toBeNull()
  })
  test('what a trim did is told by zero and span; what stayed is not', () => {
    expect(trimEffect(judged(0.4, -0.05), judged(0.01, -0.05))).toEqual([
      'Sensor: zero from +0.400 to +0.010 %.',
      'Whole loop: zero from +0.350 to -0.040 %.',
    ])
    expect(trimEffect(judged(0.4, 0), judged(0.4, 0))).toEqual([])
  })
})
