import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { driftOf, periodsOf, staircase_months, type Drift } from './drift.ts'

type Told = Extract<Drift, { enough: true }>
function told(drift: Drift): Told {
  if (!drift.enough) throw new Error(`only ${drift.periods} periods`)
  return drift
}
const YEAR = 365
/** Periods of a year that drift by so much each, scattered by turns. */
const steady = (perYear: number, scatter = 0.01, n = 4) =>
  Array.from({ length: n }, (_, i) => ({ dt: YEAR, d: perYear + (i % 2 === 0 ? scatter : -scatter) }))
const mirrored = (periods: readonly { dt: number; d: number }[]) =>
  periods.map((p) => ({ dt: p.dt, d: -p.d }))

describe('periods between calibrations', () => {
  test('each from what was left to what was found, never over an adjustment, whatever their order', () => {
    const history = [
      { day: 730, asFound_pct: 0.5, asLeft_pct: 0.5 },
      { day: 0, asFound_pct: 9, asLeft_pct: 0.1 },
      { day: 365, asFound_pct: 0.3, asLeft_pct: 0.2 },
    ]
    const periods = periodsOf(history)
    expect(periods.map((p) => p.dt)).toEqual([365, 365])
    expect(periods[0]?.d).toBeCloseTo(0.2, 12)
    expect(periods[1]?.d).toBeCloseTo(0.3, 12)
  })
  test('two on one day are no period', () => {
    const same = { day: 10, asFound_pct: 0.1, asLeft_pct: 0.1 }
    expect(periodsOf([same, { ...same, asFound_pct: 0.9 }])).toEqual([])
  })
})

describe('when the tolerance is left', () => {
  test('downwards as upwards', () => {
    const up = told(driftOf(steady(0.2), 0.1, 1))
    const down = told(driftOf(mirrored(steady(0.2)), -0.1, 1))
    expect(down.rate).toBeCloseTo(-up.rate, 15)
    expect(down.earliest_days).toBeCloseTo(up.earliest_days ?? NaN, 3)
    expect(down.central_days).toBeCloseTo(up.central_days ?? NaN, 9)
    // 0.9 % are left at 0.2 % a year; the edge of the band is there before.
    expect(up.central_days).toBeCloseTo((0.9 / 0.2) * YEAR, 6)
    expect(up.earliest_days).toBeLessThan(up.central_days ?? 0)
  })
  test('a band that touches the limit today has left it', () => {
    expect(told(driftOf(steady(0.2), 0.99, 1)).earliest_days).toBe(0)
    expect(told(driftOf(mirrored(steady(0.2)), -0.99, 1)).earliest_days).toBe(0)
  })
  test('what does not drift never leaves it by its middle', () => {
    const still = told(driftOf(steady(0, 0), 0.3, 1))
    expect([still.central_days, still.earliest_days, still.significant, still.extrapolated]).toEqual([
      null,
      null,
      false,
      false,
    ])
  })
  test('what is outside already and drifts on was never to leave it', () => {
    expect(told(driftOf(steady(0.2), 1.5, 1)).central_days).toBeNull()
  })
  test('farther than three of the longest periods is said, nearer is not', () => {
    const far = told(driftOf(steady(0.1, 0.001), 0, 1))
    expect(far.earliest_days).toBeGreaterThan(3 * YEAR)
    expect(far.extrapolated).toBe(true)
    const near = told(driftOf(steady(0.4, 0.001), 0, 1))
    expect(near.earliest_days).toBeLessThan(3 * YEAR)
    expect(near.extrapolated).toBe(false)
    // The longest counts, not the shortest.
    const uneven = [...steady(0.1, 0.001), { dt: 4 * YEAR, d: 0.4 }]
    expect(told(driftOf(uneven, 0, 1)).extrapolated).toBe(false)
  })
  test('lost in its scatter it is no drift', () => {
    expect(told(driftOf(steady(0.2, 0.01), 0, 1)).significant).toBe(true)
    expect(told(driftOf(steady(0.02, 0.2), 0, 1)).significant).toBe(false)
  })
  test('two periods are too few', () => {
    expect(driftOf(steady(0.2, 0.01, 2), 0, 1)).toEqual({ enough: false, periods: 2 })
  })
  test('any history turned over leaves on the same day', () => {
    const period = fc.record({
      dt: fc.double({ min: 20, max: 800, noNaN: true }),
      d: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
    })
    fc.assert(
      fc.property(
        fc.array(period, { minLength: 3, maxLength: 8 }),
        fc.double({ min: -0.9, max: 0.9, noNaN: true }),
        (all, a0) => {
          const [a, b] = [told(driftOf(all, a0, 1)), told(driftOf(mirrored(all), -a0, 1))]
          expect(b.earliest_days ?? -1).toBeCloseTo(a.earliest_days ?? -1, 4)
          expect([b.significant, b.extrapolated]).toEqual([a.significant, a.extrapolated])
        },
      ),
    )
  })
})

describe('the next interval by how much of the tolerance was used', () => {
  test.each<[used: readonly number[], months: number, why: string]>([
    [[], 12, 'nothing known: as it is'],
    [[0.4], 12, 'once little used is not enough to lengthen'],
    [[0.4, 0.4], 15, 'twice little used'],
    [[0.5, 0.5], 15, 'half is little'],
    [[0.51, 0.5], 12, 'once a little more'],
    [[0.5, 0.51], 12, 'the last time a little more'],
    [[0.8], 12, 'four fifths'],
    [[0.81], 9, 'more than four fifths'],
    [[1], 9, 'all of it'],
    [[1.01], 6, 'more than all of it'],
  ])('%j: %s months (%s)', (used, months) => expect(staircase_months(12, used)).toBe(months))
  test('never below the least nor above the most', () => {
    expect(staircase_months(1, [2])).toBe(1)
    expect(staircase_months(60, [0.1, 0.1])).toBe(60)
    expect(staircase_months(12, [2], 8)).toBe(8)
    expect(staircase_months(12, [0, 0], 1, 13)).toBe(13)
  })
})
