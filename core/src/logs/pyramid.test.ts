import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { pixelsOf, Pixels, pyramidOf } from './pyramid.ts'
import { deviationOf, merged, summaryOf, type Summary } from './summary.ts'
import { series, T0 } from './test/series.ts'

const of = (v: readonly number[]) =>
  summaryOf(
    v.map((_, i) => i),
    v,
  )

describe('summaries', () => {
  test('two merged are the whole', () => {
    const [a, b] = [of([50.1, 50.3, 49.8]), of([51, 50.6])]
    expect(a?.mean).toBeCloseTo(50.06667, 5)
    expect(a?.m2).toBeCloseTo(0.1266667, 7)
    expect(b?.m2).toBeCloseTo(0.08, 9)
    expect(a && b && merged(a, b)).toMatchObject({
      count: 5,
      min: 49.8,
      max: 51,
      mean: expect.closeTo(50.36, 9),
      m2: expect.closeTo(0.852, 9),
      first: 50.1,
      last: 50.6,
    })
  })
  test('at a level of a thousand million the scatter of 2 is right to ten digits', () => {
    const v = Array.from({ length: 4096 }, (_, i) => 1e9 + (i % 2 === 0 ? 2 : -2))
    const top = pyramidOf(
      v.map((_, i) => i),
      v,
    ).at(-1)?.[0]
    expect(top && deviationOf(top) ** 2).toBeCloseTo((4 * 4096) / 4095, 9)
  })
  test('in any grouping the same', () => {
    const numbers = fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), {
      minLength: 3,
      maxLength: 400,
    })
    fc.assert(
      fc.property(numbers, fc.integer({ min: 1, max: 398 }), (v, cut) => {
        const at = Math.min(cut, v.length - 1)
        const t = v.map((_, i) => i)
        const [a, b] = [summaryOf(t, v, 0, at), summaryOf(t, v, at)]
        const [whole, top] = [summaryOf(t, v), pyramidOf(t, v).at(-1)?.[0]]
        if (!a || !b || !whole || !top) throw new Error('no summary')
        const near = (x: Summary) => {
          expect(x).toMatchObject({ count: whole.count, min: whole.min, max: whole.max, last: whole.last })
          expect(Math.abs(x.m2 - whole.m2)).toBeLessThanOrEqual(1e-9 * (whole.m2 + 1))
          expect([v[x.minAt], v[x.maxAt]]).toEqual([x.min, x.max])
        }
        near(merged(a, b))
        near(top)
      }),
    )
  })
  test('a chunk ends where a part of the log ends', () => {
    const v = Array.from({ length: 200 }, () => 1)
    const t = v.map((_, i) => i)
    expect(pyramidOf(t, v, [100])[0]?.map((s) => s.count)).toEqual([64, 36, 64, 36])
  })
})

describe('pixels', () => {
  const L1 = series({ n: 240, level: 50, sd: 0.4, phi: 0.6, g: 0.001 })
  test('the worked view', () => {
    const told = pixelsOf(L1.t, L1.v, T0, T0 + 239_000, 4)
    expect(told.map((p) => [p.min, p.max, Number(p.mean?.toFixed(5)), p.count])).toEqual([
      [48.988, 50.689, 49.84477, 60],
      [49.186, 50.825, 50.12097, 60],
      [49.206, 50.895, 50.10467, 60],
      [49.53, 50.602, 50.06948, 60],
    ])
  })
  test('a pixel without samples is empty, nulls belong to none, the end belongs to the last', () => {
    const told = pixelsOf([0, 1, 2, 10], [5, null, 6, 7], 0, 10, 5)
    expect(told.map((p) => p.count)).toEqual([1, 1, 0, 0, 1])
    expect(told[2]).toEqual({ min: null, max: null, mean: null, count: 0 })
  })
  test('whole chunks where they lie inside a pixel, samples where not: the same pixels', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 1, max: 3000 }),
        fc.integer({ min: 1, max: 60 }),
        (start, length, width) => {
          const { t, v } = series({ n: 3000, level: 5, sd: 1, phi: 0.9, g: 0.01 })
          const [from, to] = [T0 + start * 1000, T0 + (start + length) * 1000]
          const pixels = new Pixels(from, to, width)
          pyramidOf(t, v)[0]?.forEach((c, k) => {
            const [p, last] = [pixels.at(c.firstAt), pixels.at(c.lastAt)]
            if (p >= 0 && p === last) pixels.put(p, c.count, c.min, c.max, c.mean)
            else
              for (let i = k * 64; i < k * 64 + c.count; i++)
                pixels.put(pixels.at(t[i] ?? 0), 1, v[i] ?? 0, v[i] ?? 0, v[i] ?? 0)
          })
          const direct = pixelsOf(t, v, from, to, width)
          expect(pixels.shown()).toEqual(
            direct.map((p) => ({
              ...p,
              mean: p.mean === null ? null : (expect.closeTo(p.mean, 9) as number),
            })),
          )
        },
      ),
      { numRuns: 60 },
    )
  })
})
