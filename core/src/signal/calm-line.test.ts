import { expect, test } from 'vitest'
import { calmLine } from './calm-line.ts'

test('a calm loop is a flat line', () => {
  expect(calmLine([], 100, 20)).toEqual([
    [0, 10],
    [100, 10],
  ])
})
test('a high reading steps up where it comes in, a low one down', () => {
  const up = calmLine([{ station: 'output', error_pct: 2.5 }], 100, 20)
  expect(up).toEqual([
    [0, 10],
    [52, 10],
    [52, 6],
    [100, 6],
  ])
  expect(calmLine([{ station: 'sensor', error_pct: -2.5 }], 100, 20).at(-1)).toEqual([100, 14])
})
test('a larger error is never a smaller step, and the line stays in its box', () => {
  const end = (e: number) => calmLine([{ station: 'controller', error_pct: e }], 100, 20).at(-1)?.[1] ?? NaN
  expect(end(0.5)).toBeGreaterThan(end(1))
  expect(end(10)).toBe(end(1000))
  const both = calmLine(
    [
      { station: 'sensor', error_pct: 50 },
      { station: 'output', error_pct: 50 },
    ],
    100,
    20,
  )
  expect(Math.min(...both.map((p) => p[1]))).toBeGreaterThanOrEqual(0)
})
