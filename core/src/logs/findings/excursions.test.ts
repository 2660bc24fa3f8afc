import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { asSteps, excursionsIn, without } from './excursions.ts'
import { USUAL_JUDGEMENT } from './finding.ts'
import { judgeLog } from './judge.ts'

/** Scatter of 1 about 50, neighbours alike by φ, one sample a second. */
function log(n: number, phi: number, seed: number, wave: (i: number) => number = () => 0): Float64Array {
  const g = new Generator(seed)
  let a = g.normal()
  return Float64Array.from({ length: n }, (_, i) => {
    a = phi * a + Math.sqrt(1 - phi * phi) * g.normal()
    return 50 + a + wave(i)
  })
}
const lifted = (x: Float64Array, at: number, length: number, size: number) =>
  x.map((v, i) => (i >= at && i < at + length ? v + size : v))
const judged = (x: Float64Array) =>
  judgeLog({ t: Float64Array.from(x, (_, i) => i * 1000), v: x }, USUAL_JUDGEMENT)

describe('a value that goes somewhere else for a short time and comes back', () => {
  // Samples, φ, where, how long, how far: in scatters of the log.
  const rows: readonly (readonly [number, number, number, number, number])[] = [
    [2_000, 0, 700, 6, 30],
    [8_000, 0, 40, 8, -25],
    [8_000, 0.5, 7_900, 20, 25],
    [8_000, 0.9, 3_000, 60, 40],
    [20_000, 0, 8_740, 20, 10],
    [20_000, 0.8, 8_740, 100, -20],
    [60_000, 0.8, 31_000, 33, 20],
    [150_000, 0, 65_550, 300, 10],
    [150_000, 0.8, 65_550, 25, 100],
    [150_000, 0.8, 65_550, 1_500, 100],
  ]
  test.each(rows)('%i samples, φ %f: at %i for %i samples by %f', (n, phi, at, length, size) => {
    const found = judged(lifted(log(n, phi, n + at), at, length, size))
    // These two and nothing else: no other scatter, no step somewhere else.
    expect(found.map((f) => f.code)).toEqual(['STEP', 'STEP'])
    const [up, down] = found
    expect(Math.abs((up?.from ?? 0) / 1000 - at)).toBeLessThanOrEqual(3)
    expect(Math.abs((down?.from ?? 0) / 1000 - at - length)).toBeLessThanOrEqual(3)
    const tolerance = Math.max(1.5, 0.1 * Math.abs(size))
    expect(Math.abs(Number(up?.evidence['size']) - size)).toBeLessThan(tolerance)
    expect(Math.abs(Number(down?.evidence['size']) + size)).toBeLessThan(tolerance)
  })
  test.each([
    ['a hump', 200, (k: number) => 1 - Math.abs(k / 100 - 1)],
    ['what falls off slowly', 200, (k: number) => Math.exp(-k / 67)],
    ['what comes on slowly', 120, (k: number) => 1 - Math.exp(-k / 30)],
    ['what shakes while it is there', 60, (k: number) => 1 + 0.06 * Math.sin(k * 1.7)],
  ])('%s is one, not a stair', (_what, length, shape) => {
    for (const size of [40, -40])
      for (let seed = 0; seed < 10; seed++) {
        const x = log(20_000, 0.7, seed, (i) =>
          i >= 9_000 && i < 9_000 + length ? size * shape(i - 9_000) : 0,
        )
        const found = excursionsIn(x, 0)
        expect(found).toHaveLength(1)
        const [from = 0, to = 0] = [found[0]?.from, found[0]?.to]
        expect(from >= 8_995 && to <= 9_005 + length && to - from >= length / 4).toBe(true)
        expect(Math.sign(found[0]?.size ?? 0)).toBe(Math.sign(size))
      }
  })
  test('three of them, each by itself', () => {
    const places = [
      [9_000, 12, 30],
      [9_400, 40, -20],
      [30_000, 200, 15],
    ] as const
    const x = places.reduce((v, [at, length, size]) => lifted(v, at, length, size), log(50_000, 0.5, 3))
    const steps = judged(x)
    expect(steps.map((f) => f.code)).toEqual(Array(6).fill('STEP'))
    const due = places.flatMap(([at, length]) => [at, at + length])
    expect(steps.filter((f, k) => Math.abs(f.from / 1000 - (due[k] ?? 0)) > 3)).toEqual([])
  })
})

describe('is none', () => {
  const of = (x: Float64Array) => excursionsIn(x, 0)
  test.each([
    ['a step', (i: number) => (i < 4_321 ? 0 : 80)],
    ['a step and another back a day later', (i: number) => (i < 2_321 || i >= 6_200 ? 0 : 80)],
    ['a slope from one level to another', (i: number) => Math.min(80, Math.max(0, (i - 4_000) / 4))],
    ['a drift', (i: number) => i / 50],
    ['a slow wave', (i: number) => 40 * Math.sin(i / 300)],
    ['a fast wave', (i: number) => 40 * Math.sin(i / 5)],
    ['a tank that fills and is emptied', (i: number) => 40 * ((i % 900) / 900)],
    ['a pump that comes on for 20 s every five minutes', (i: number) => (i % 300 < 20 ? 30 : 0)],
    ['what begins before the log', (i: number) => (i < 40 ? 50 : 0)],
    ['what lasts beyond the log', (i: number) => (i > 7_960 ? 50 : 0)],
  ])('%s', (_what, wave) => {
    expect(of(log(8_000, 0.5, 11, wave))).toEqual([])
  })
  test('scatter that is three times as large from the middle on', () => {
    const x = log(8_000, 0.6, 5).map((v, i) => (i < 4_000 ? v : 50 + 3 * (v - 50)))
    expect(of(x)).toEqual([])
  })
  test.each([
    [5, 12],
    [5, 150],
    [10, 12],
    [10, 40],
    [10, 150],
    [30, 12],
    [30, 40],
    [30, 150],
  ])('a moment of scatter, %i times as large for %i samples', (times, length) => {
    const told: unknown[] = []
    for (const phi of [0, 0.8])
      for (let seed = 0; seed < 40; seed++) {
        const [x, burst] = [log(4_000, phi, seed), log(4_000, 0, seed + 500)]
        const found = of(
          x.map((v, i) => (i >= 2_000 && i < 2_000 + length ? 50 + times * ((burst[i] ?? 0) - 50) : v)),
        )
        if (found.length > 0) told.push([phi, seed, found])
      }
    expect(told).toEqual([])
  })
  test('scatter of any kind', () => {
    fc.assert(
      fc.property(fc.nat(1e9), fc.double({ min: 0, max: 0.98, noNaN: true }), (seed, phi) => {
        expect(of(log(4_000, phi, seed))).toEqual([])
      }),
      { numRuns: 60, seed: 5 },
    )
  })
})

test('without them the values are as before; told they are two steps that cancel', () => {
  const before = log(6_000, 0, 9)
  const x = lifted(before, 2_000, 30, 40)
  const found = excursionsIn(x, 0)
  expect(found).toMatchObject([{ from: 2_000, to: 2_030 }])
  const left = without(x, found)
  expect(Math.max(...left.map((v, i) => Math.abs(v - (before[i] ?? 0))))).toBeLessThan(1)
  expect(x[2_010]).toBeGreaterThan(80)
  const t = Float64Array.from(x, (_, i) => i)
  const sizes = asSteps({ n: x.length, t, clock: t, x }, found).map((f) => Number(f.evidence['size']))
  expect((sizes[0] ?? NaN) + (sizes[1] ?? NaN)).toBe(0)
})
test('a display that only shows whole steps: two of them are no excursion', () => {
  const coarse = log(6_000, 0, 4).map((v) => 5 * Math.round(v / 5))
  const x = coarse.map((v, i) => (i >= 3_000 && i < 3_020 ? v + 10 : v))
  expect(excursionsIn(x, 10)).toEqual([])
})
