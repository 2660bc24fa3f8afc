import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { cholesky, solve } from './cholesky.ts'
import { deviation } from './deviation.ts'
import { fitLine } from './fit-line.ts'
import { interpolate, rowBelow } from './interpolate.ts'
import { mean, sum } from './mean.ts'

const numbers = (least: number) =>
  fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: least, maxLength: 40 })

describe('mean and deviation', () => {
  test.each<[xs: number[], m: number, s: number]>([
    [[4], 4, 0],
    [[1, 2, 3, 4], 2.5, 1.2909944],
    [[-2, 2], 0, 2.8284271],
  ])('%j', (xs, m, s) => {
    expect([mean(xs), sum(xs) / xs.length]).toEqual([m, m])
    expect(deviation(xs)).toBeCloseTo(s, 6)
  })
  test('of nothing there is no mean, and nothing scatters', () =>
    expect([mean([]), deviation([])]).toEqual([NaN, 0]))
  test('moving all moves the mean and leaves the scatter', () => {
    fc.assert(
      fc.property(numbers(2), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (xs, by) => {
        const moved = xs.map((x) => x + by)
        expect(Math.abs(mean(moved) - mean(xs) - by)).toBeLessThan(1e-6)
        expect(Math.abs(deviation(moved) - deviation(xs))).toBeLessThan(1e-5)
      }),
    )
  })
})

describe('a line by least squares', () => {
  test('of a line is the line, with no scatter', () => {
    const line = fitLine([
      [0, 1],
      [2, 5],
      [5, 11],
    ])
    expect(line).toMatchObject({ slope: 2, scatter: 0 })
    expect([line?.at(10), line?.where(21)]).toEqual([21, 10])
  })
  test('anscombe’s first set', () => {
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5]
    const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68]
    const line = fitLine(x.map((v, i) => [v, y[i] ?? 0]))
    expect(line?.slope).toBeCloseTo(0.500091, 6)
    expect(line?.at(0)).toBeCloseTo(3.000091, 6)
    expect(line?.scatter).toBeCloseTo(1.2366033, 6)
  })
  test('all at one place, or nowhere, is no line; a level one is reached nowhere else', () => {
    expect(
      fitLine([
        [3, 1],
        [3, 2],
      ]),
    ).toBeNull()
    expect(fitLine([])).toBeNull()
    expect(
      fitLine([
        [0, 2],
        [1, 2],
      ])?.where(3),
    ).toBeNull()
  })
})

describe('between rows', () => {
  const ROWS = [
    [0, 0],
    [1, 10],
    [3, 20],
  ] as const
  test.each([
    [0.5, 5],
    [1, 10],
    [2, 15],
    [3, 20],
    [4, 25],
    [-1, -10],
  ])('at %d is %d', (x, y) => expect(interpolate(ROWS, x)).toBeCloseTo(y, 12))
  test('the row below is found among thousands as by looking at each', () => {
    const rows = Array.from({ length: 5000 }, (_, i) => [i / 7, i])
    fc.assert(
      fc.property(fc.double({ min: -5, max: 800, noNaN: true }), (x) => {
        const plain = Math.max(
          0,
          rows.slice(0, -1).findLastIndex(([a = 0]) => a <= x),
        )
        expect(rowBelow(rows, x)).toBe(plain)
      }),
    )
  })
})

test('a system of equations is solved', () => {
  const A = [
    [4, 1, 0],
    [1, 3, 1],
    [0, 1, 2],
  ]
  const x = solve(cholesky(A), [6, 10, 8])
  const b = A.map((row) => row.reduce((s, a, i) => s + a * (x[i] ?? 0), 0))
  expect(b.map((v) => Number(v.toFixed(12)))).toEqual([6, 10, 8])
})
