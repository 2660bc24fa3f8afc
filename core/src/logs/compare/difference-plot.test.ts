import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { differencePlot, differencesOf } from './difference-plot.ts'

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

test('of two logs the lag is taken out: one later copy of the other differs by nothing', () => {
  const t = Array.from({ length: 400 }, (_, i) => 1000 * i)
  const flow = (s: number) => 50 + 6 * Math.sin(s / 40)
  const [a, b] = [t.map((ms) => flow(ms / 1000 - 5)), t.map((ms) => flow(ms / 1000))]
  const farthest = (lag_s: number) =>
    Math.max(
      ...differencesOf({ t, v: a }, { t, v: b }, { step_ms: 1000, lag_s, gapFactor: 5 }).flatMap((m) => [
        Math.abs(m.min),
        Math.abs(m.max),
      ]),
    )
  expect(farthest(5)).toBeLessThan(1e-9)
  expect(farthest(0)).toBeGreaterThan(0.5)
})
