import { defaultPath } from '@calm/core/loop/default-path'
import { loopScale, type Reading } from '@calm/core/verify/reading-errors'
import { namedPlan } from '@calm/core/verify/plan'
import { judge, type Judgement } from '@calm/core/verify/verdict'
import type { Chart } from '@calm/core/chart'
import { describe, expect, test } from 'vitest'
import { calmLineSvg } from './calm-line.ts'
import { chartSvg } from './chart-svg.ts'
import { errorChart } from '@calm/core/verify/error-chart'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
function judged(error: number): Judgement {
  if (!scale) throw new Error('no scale')
  const readings = [0, 40, 80].map((applied, index): Reading => ({
    index,
    direction: 'up',
    applied,
    pv: applied + error,
    loopCurrent_mA: null,
    controller: null,
  }))
  const j = judge({
    scale,
    tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
    plan: namedPlan('P3'),
    readings,
    U_pct: 0,
    phase: 'asFound',
  })
  if (!j) throw new Error('no judgement')
  return j
}
const errorPlotSvg = (found: Judgement | null, left: Judgement | null) => chartSvg(errorChart(found, left))
const circles = (svg: string) =>
  [...svg.matchAll(/<circle cx="([\d.-]+)" cy="([\d.-]+)"/g)].map(
    (m) => [Number(m[1]), Number(m[2])] as const,
  )

describe('the printed error plot', () => {
  test('has a mark for every point, open as found and filled as left', () => {
    const svg = errorPlotSvg(judged(0.4), judged(0.05))
    expect(circles(svg)).toHaveLength(6)
    expect(svg.match(/fill="white" stroke="black"/g)).toHaveLength(3)
  })
  test('keeps every mark inside its frame, however large the error', () => {
    for (const error of [0, 0.001, 1, 500, -500])
      for (const [x, y] of circles(errorPlotSvg(judged(error), null))) {
        expect(x).toBeGreaterThan(0)
        expect(x).toBeLessThan(500)
        expect(y).toBeGreaterThan(0)
        expect(y).toBeLessThan(150)
      }
  })
  test('draws a higher error higher', () => {
    const y = (e: number) => circles(errorPlotSvg(judged(e), judged(1)))[0]?.[1] ?? NaN
    expect(y(0.4)).toBeLessThan(y(0.1))
  })
  test('needs no colour', () => {
    expect(errorPlotSvg(judged(1), judged(0)).match(/#[0-9a-f]{3,6}|rgb/i)).toBeNull()
  })
})

describe('any chart of the core on paper', () => {
  const chart = (more: Partial<Chart>): Chart => ({
    title: 'A chart',
    says: '',
    x: { label: 'x' },
    y: { label: 'y' },
    series: [],
    ...more,
  })
  test('every kind of series is drawn, and only in black on white', () => {
    const points: [number, number][] = [
      [0, 1],
      [4, 3],
    ]
    const kinds = ['line', 'points', 'limit', 'bars', 'band', 'floor'] as const
    for (const kind of kinds) {
      const svg = chartSvg(chart({ series: [{ name: kind, kind, points, below: [-1, -3] }] }))
      expect([kind, /NaN|undefined|Infinity/.test(svg)]).toEqual([kind, false])
      expect([kind, /<polyline|<circle|stroke-width="3"/.test(svg)]).toEqual([kind, true])
    }
  })
  test('nothing to draw is an empty frame, and a sign in a text is no tag', () => {
    expect(chartSvg(chart({}))).not.toMatch(/NaN|Infinity/)
    expect(chartSvg(chart({ x: { label: '', unit: '<', from: 0, to: 1 } }))).not.toContain('<<')
  })
})

test('the small line is flat when calm and steps when not', () => {
  const corners = (svg: string) => (/points="([^"]+)"/.exec(svg)?.[1] ?? '').split(' ').length
  expect(corners(calmLineSvg(judged(0.05)))).toBe(2)
  expect(corners(calmLineSvg(judged(1)))).toBe(4)
  expect(corners(calmLineSvg(null))).toBe(2)
})
