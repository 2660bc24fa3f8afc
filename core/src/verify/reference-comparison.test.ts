import { describe, expect, test } from 'vitest'
import {
  compareWithReference,
  comparisonChart,
  type PastComparison,
  type ReferenceTask,
} from './reference-comparison.ts'

const runs = (pairs: readonly (readonly [number, number])[]) =>
  pairs.map(([reference, indicated]) => ({ reference, indicated, path: null }))
const TASK: ReferenceTask = {
  kind: 'portable',
  unit: 'kg/h',
  Uref_pct: 0.8,
  Umeter_pct: 0.2,
  tolerance_pct: 2,
  runs: runs([
    [500, 505],
    [1000, 1011],
    [1500, 1514],
  ]),
}
const BASELINE: PastComparison = {
  at: '2024-11-04T08:00:00.000Z',
  U_pct: 0.8,
  points: [
    { at: 400, error_pct: 0.2 },
    { at: 1600, error_pct: 0.4 },
  ],
}

describe('against a reference', () => {
  test('errors, normalised errors and the mean by hand', () => {
    const r = compareWithReference(TASK)
    expect(r.errors_pct.map((e) => Number(e.toFixed(4)))).toEqual([1, 1.1, 0.9333])
    expect(r.En[0]).toBeCloseTo(1 / Math.hypot(0.8, 0.2), 9)
    expect(r.mean_pct).toBeCloseTo(1.0111, 4)
    expect(r.passes).toBe(true)
    expect(r.says.join(' ')).toMatch(/do not agree within their uncertainties at 3 of 3/)
  })
  test('one run apart is pointed at, never taken out', () => {
    const r = compareWithReference({
      ...TASK,
      runs: runs([
        [1000, 1001],
        [1000, 1002],
        [1000, 1001.5],
        [1000, 1040],
        [1000, 1001.2],
      ]),
    })
    expect(r.outlier).toBe(3)
    expect(r.errors_pct).toHaveLength(5)
    expect(r.says.join(' ')).toMatch(/Run 4 .*stands apart/)
  })
  test('the baseline is interpolated, never extrapolated', () => {
    const r = compareWithReference(
      {
        ...TASK,
        runs: runs([
          [1000, 1020],
          [2000, 2040],
        ]),
      },
      [BASELINE],
    )
    expect(r.baseline?.points.map((p) => p.baseline)).toEqual([expect.closeTo(0.3, 9), null])
    expect(r.says.join(' ')).toMatch(/moved by \+1\.70 %: more than the uncertainties explain/)
    expect(r.says.join(' ')).toMatch(/1 run lies outside/)
  })
  test('a meter that did not move agrees with its baseline', () => {
    const r = compareWithReference(
      {
        ...TASK,
        runs: runs([
          [500, 501.1],
          [1500, 1505.9],
        ]),
      },
      [BASELINE],
    )
    expect(r.baseline?.agrees).toBe(true)
  })
  test('two paths that differ are told', () => {
    const r = compareWithReference({
      ...TASK,
      runs: [
        { reference: 1000, indicated: 1001, path: 1 },
        { reference: 1000, indicated: 1033, path: 2 },
      ],
    })
    expect(r.says.join(' ')).toMatch(/Path 2 reads \+3\.20 % against path 1: swirl/)
  })
  test('a trend needs three comparisons', () => {
    const later = {
      ...BASELINE,
      at: '2025-11-04T08:00:00.000Z',
      points: [
        { at: 400, error_pct: 1.2 },
        { at: 1600, error_pct: 1.4 },
      ],
    }
    const says = (past: PastComparison[]) =>
      compareWithReference(
        { ...TASK, runs: runs([[1000, 1023]]) },
        past,
        '2026-11-26T10:00:00.000Z',
      ).says.join(' ')
    expect(says([BASELINE])).not.toMatch(/a year/)
    expect(says([BASELINE, later])).toMatch(/Over 3 comparisons/)
  })
  test('nothing, or a reference of nothing, claims nothing', () => {
    expect(compareWithReference({ ...TASK, runs: [] }).passes).toBe(false)
    expect(compareWithReference({ ...TASK, runs: runs([[0, 3]]) }).says).toEqual(['Nothing to compare yet.'])
    expect(comparisonChart({ ...TASK, runs: [] }, compareWithReference({ ...TASK, runs: [] }), [])).toBeNull()
  })
  test('the picture shows now, the baseline and what is allowed', () => {
    const r = compareWithReference(TASK, [BASELINE])
    const chart = comparisonChart(TASK, r, [BASELINE])
    expect(chart?.series.map((s) => s.name)).toEqual([
      'baseline, 2024-11-04',
      'now',
      'allowed',
      'allowed, below',
    ])
  })
})
