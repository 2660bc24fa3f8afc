import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { differencePlot, marksJoined } from './difference-plot.ts'

describe('every difference against the mean of both', () => {
  test('by hand: two levels, the farthest where they are', () => {
    expect(differencePlot([10, 12, 20, 22], [10, 10, 20, 20])).toEqual([
      { at: 10, n: 1, mean: 0, min: 0, max: 0 },
      { at: 11, n: 1, mean: 2, min: 2, max: 2 },
      { at: 20, n: 1, mean: 0, min: 0, max: 0 },
      { at: 21, n: 1, mean: 2, min: 2, max: 2 },
    ])
  })
  test.each([
    ['nothing', [], [], 0],
    ['one pair', [5], [4], 1],
    ['all at one mean', [5, 5, 5], [4, 4, 4], 1],
  ])('%s', (_, a, b, marks) => {
    expect(differencePlot(a, b)).toHaveLength(marks)
  })
  test('nothing is left out, and the marks rise', () => {
    const g = new Generator(41)
    for (let k = 0; k < 30; k++) {
      const b = Array.from({ length: 700 }, () => 50 + 20 * g.normal())
      const a = b.map((x) => 1.02 * x + g.normal())
      const marks = differencePlot(a, b)
      const d = a.map((x, i) => x - (b[i] ?? 0))
      expect(marks.reduce((n, m) => n + m.n, 0)).toBe(700)
      expect(marks.length).toBeLessThanOrEqual(48)
      expect(Math.max(...marks.map((m) => m.max))).toBe(Math.max(...d))
      expect(Math.min(...marks.map((m) => m.min))).toBe(Math.min(...d))
      expect(marks.reduce((s, m) => s + m.n * m.mean, 0) / 700).toBeCloseTo(
        d.reduce((x, y) => x + y, 0) / 700,
        9,
      )
      expect(marks.map((m) => m.at)).toEqual(marks.map((m) => m.at).sort((x, y) => x - y))
    }
  })
})

test('marks of parts joined: none left out, the farthest where they are, few enough', () => {
  const g = new Generator(43)
  const parts = [20, 45, 50].map((level) => {
    const b = Array.from({ length: 500 }, () => level + 8 * g.normal())
    return { a: b.map((x) => 1.01 * x + g.normal()), b }
  })
  const d = parts.flatMap(({ a, b }) => a.map((x, i) => x - (b[i] ?? 0)))
  const marks = marksJoined(parts.map(({ a, b }) => differencePlot(a, b, 480)))
  const whole = differencePlot(
    parts.flatMap((p) => p.a),
    parts.flatMap((p) => p.b),
  )
  expect(marks.reduce((n, m) => n + m.n, 0)).toBe(1500)
  expect(marks.length).toBeLessThanOrEqual(48)
  expect([Math.min(...marks.map((m) => m.min)), Math.max(...marks.map((m) => m.max))]).toEqual([
    Math.min(...d),
    Math.max(...d),
  ])
  expect(marks.reduce((s, m) => s + m.n * m.mean, 0)).toBeCloseTo(
    d.reduce((x, y) => x + y, 0),
    6,
  )
  // Each mark goes whole to where its mean lies: nearly the plot of the whole.
  const near = marks.filter((m) =>
    whole.some((w) => Math.abs(w.at - m.at) < 0.3 && Math.abs(w.n - m.n) <= 25),
  )
  expect(near.length).toBeGreaterThan(0.8 * whole.length)
})

test.each([
  ['of one part they stay', [[{ at: 5, n: 2, mean: 1, min: 0, max: 2 }]]],
  ['of none there are none', [[]]],
])('marks joined: %s', (_, parts) => {
  expect(marksJoined(parts)).toEqual(parts[0])
})
