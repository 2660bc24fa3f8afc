import { describe, expect, test } from 'vitest'
import { pointsOf } from './log-chart.ts'
import { sayTick, timeTicks } from './say-time.ts'

describe('what a view is drawn with', () => {
  test('strokes from the smallest to the largest, begun where the one before ended', () => {
    const view = { from: 0, to: 30, kind: 'pixels' as const, t: [], min: [1, 4, 2], max: [3, 6, 5] }
    expect(pointsOf(view, 0)).toEqual([
      { x: 5, y: 1 },
      { x: 5, y: 3 },
      { x: 15, y: 4 },
      { x: 15, y: 6 },
      { x: 25, y: 5 },
      { x: 25, y: 2 },
    ])
  })
  test('a gap is a gap; an empty pixel between two samples is none', () => {
    const view = {
      from: 0,
      to: 60,
      kind: 'pixels' as const,
      t: [],
      min: [1, null, 1, null, null, null],
      max: [1, null, 1, null, null, null],
    }
    expect(pointsOf(view, 25).map((p) => p.y)).toEqual([1, 1, NaN, NaN, NaN])
    const samples = { from: 100, to: 109, kind: 'samples' as const, t: [0, 1, 8], min: [1, 2, null], max: [] }
    expect(pointsOf(samples, 5)).toEqual([
      { x: 100, y: 1 },
      { x: 101, y: 2 },
      { x: 102, y: NaN },
      { x: 108, y: NaN },
    ])
  })
})

describe('ticks along the time', () => {
  test.each([
    [0, 60_000, 8, [0, 10_000, 20_000, 30_000, 40_000, 50_000, 60_000]],
    [1500, 4200, 8, [1500, 2000, 2500, 3000, 3500, 4000]],
    [0, 6 * 3_600_000, 7, [0, 1, 2, 3, 4, 5, 6].map((h) => h * 3_600_000)],
  ])('from %d to %d', (from, to, most, ticks) => {
    expect(timeTicks(from, to, most)).toEqual(ticks)
  })
  test.each([
    [Date.UTC(2026, 2, 1, 9, 30), 3_600_000, { relative: false, zone: 'UTC' }, '09:30'],
    [Date.UTC(2026, 6, 1, 9, 30), 3_600_000, { relative: false, zone: 'Europe/Lisbon' }, '10:30'],
    [Date.UTC(2026, 2, 1, 9, 30, 5), 60_000, { relative: false, zone: 'UTC' }, '09:30:05'],
    [600_000, 3_600_000, { relative: true, zone: 'UTC' }, '10 min'],
  ])('%d', (ms, width, as, says) => {
    expect(sayTick(ms, width, as)).toBe(says)
  })
})
