import { describe, expect, test } from 'vitest'
import { series, sumOfTwelve } from './test/series.ts'
import { statisticsOf } from './statistics.ts'

const L1 = series({ n: 240, level: 50, sd: 0.4, phi: 0.6, g: 0.001 })
const L2 = series({ n: 240, level: 50, sd: 0.4, phi: 0.6, g: 0.001, wave: (i) => 0.02 * i })
const without = (from: number, to: number, { t, v }: typeof L1) => ({
  t: t.filter((_, i) => i < from || i > to),
  v: v.filter((_, i) => i < from || i > to),
})

test('the test series itself', () => {
  const z = sumOfTwelve()
  const first = [z(), z(), z(), z()]
  expect(first.map((x) => x.toFixed(9))).toEqual([
    '-1.287662082',
    '-0.315242168',
    '-0.856868625',
    '0.416765149',
  ])
  expect(L1.v.slice(0, 4)).toEqual([49.588, 49.652, 49.517, 49.844])
})

describe('statistics of worked series', () => {
  test.each<[string, typeof L1, Record<string, number>]>([
    [
      'noise in which neighbours are alike',
      L1,
      {
        n: 240,
        interval: 1000,
        gaps: 0,
        covered_s: 239,
        mean: 50.03497,
        sd: 0.3768132,
        min: 48.988,
        max: 50.895,
        timeMean: 50.03647,
        noiseDiff: 0.2364156,
        phi: 0.4606593,
        noise: 0.3219175,
        r1: 0.5868425,
        nEff: 62.48749,
        uMean: 0.04766829,
        slope: 3.358504,
        uSlope: 2.397768,
        residual: 0.371984,
        theilSen: 2.93869,
      },
    ],
    [
      'the same, drifting',
      L2,
      {
        mean: 52.42497,
        sd: 1.499952,
        slope: 75.3585,
        uSlope: 2.397768,
        theilSen: 74.93869,
        noise: 0.3313847,
        phi: 0.4910706,
      },
    ],
    [
      'with a minute missing',
      without(100, 159, L2),
      { n: 180, gaps: 1, covered_s: 178, mean: 52.33322, timeMean: 52.33077 },
    ],
  ])('%s', (_what, log, expected) => {
    const told = statisticsOf(log) as unknown as Record<string, number>
    for (const [key, value] of Object.entries(expected))
      expect([key, Number(told[key]?.toPrecision(7))]).toEqual([key, Number(value.toPrecision(7))])
  })
  test('percentiles and a histogram', () => {
    const told = statisticsOf(L1, 5, [5, 50, 95], 4)
    expect(told?.percentiles.map((p) => Number(p.toPrecision(7)))).toEqual([49.34595, 50.067, 50.6081])
    expect(told?.histogram?.counts).toEqual([20, 73, 109, 38])
    expect(told?.histogram?.width).toBeCloseTo(0.47675, 9)
  })
})

describe('what cannot be a statistic is not made up', () => {
  test('no sample at all', () => {
    expect(statisticsOf({ t: [], v: [] })).toBeNull()
    expect(statisticsOf({ t: [1, 2], v: [null, null] })).toBeNull()
  })
  test('one sample has a mean and no slope', () => {
    expect(statisticsOf({ t: [5], v: [3] })).toMatchObject({
      n: 1,
      mean: 3,
      sd: 0,
      slope: null,
      timeMean: null,
    })
  })
  test('nulls, duplicates and backwards samples are counted, never used', () => {
    const told = statisticsOf({ t: [0, 1000, 1000, 500, 2000, 3000], v: [1, 1, 9, 9, null, 1] })
    expect(told).toMatchObject({ n: 3, nulls: 1, left: 2, mean: 1, sd: 0 })
  })
  test('four missing samples are no gap yet, five are one', () => {
    const told = (nulls: number) =>
      statisticsOf({
        t: Array.from({ length: 40 }, (_, i) => i * 1000),
        v: Array.from({ length: 40 }, (_, i) => (i >= 20 && i < 20 + nulls ? null : 1)),
      })?.gaps
    expect([told(1), told(4), told(5)]).toEqual([0, 0, 1])
  })
  test('a level of a thousand million with a scatter of 2 keeps its scatter', () => {
    const told = statisticsOf(series({ n: 5000, level: 1e9, sd: 2, phi: 0, g: 0 }))
    expect(told?.sd).toBeCloseTo(2, 1)
    expect(told?.noise).toBeCloseTo(2, 1)
  })
})
