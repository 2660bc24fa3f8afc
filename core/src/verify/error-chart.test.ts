import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { allowedOver, errorChart } from './error-chart.ts'
import { namedPlan } from './plan.ts'
import { loopScale } from './reading-errors.ts'

const range = { low: 0, high: 10, unit: 'bar(g)' }
function scaleOf(squareRoot = false) {
  const scale = loopScale(defaultPath({ transmitter: range, squareRoot, receiver: range }))
  if (!scale) throw new Error('no scale')
  return scale
}
const ofSpan = { mode: 'max', pctSpan: 0.5, pctReading: 0, abs: 0 } as const
const ofReading = { mode: 'max', pctSpan: 0, pctReading: 2, abs: 0 } as const

describe('the plot of errors before anything is read', () => {
  test('has its tolerance band over the whole plan', () => {
    const chart = errorChart(null, null, allowedOver(scaleOf(), ofSpan, namedPlan('P3')))
    expect(chart.series[0]).toMatchObject({ name: 'tolerance', kind: 'band' })
    expect(chart.series[0]?.points.map(([x]) => x)).toEqual([-5, 0, 50, 100, 105])
    expect(chart.series[0]?.points.map(([, y]) => y)).toEqual([0.5, 0.5, 0.5, 0.5, 0.5])
    expect(chart.y).toMatchObject({ from: -0.6, to: 0.6 })
    expect(chart.says).toContain('No readings yet.')
  })
  test('a tolerance of the reading widens along the range', () => {
    const allowed = allowedOver(scaleOf(), ofReading, namedPlan('P3'))
    expect(allowed.map((a) => Number(a.allowed_pct.toFixed(9)))).toEqual([0, 1, 2])
  })
  test('behind a root the levels are those of the flow', () => {
    const levels = allowedOver(scaleOf(true), ofSpan, namedPlan('P3')).map((a) =>
      Number(a.level_pct.toFixed(9)),
    )
    expect(levels).toEqual([0, 50, 100])
  })
})
