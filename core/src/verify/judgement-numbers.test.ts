import { describe, expect, test } from 'vitest'
import { balancedCut, driftOf, periodsOf, staircase_months } from './drift.ts'
import { cyclesOf, effectiveness } from './cycle-times.ts'
import { debounce } from './debounce.ts'
import { pulsesNeeded, totalOf } from './k-factor.ts'
import { switchPoints } from './switch-points.ts'
import {
  againstBaseline,
  baselineTrend,
  configurationDifference,
  grubbs,
  normalisedError,
  repeatedRuns,
} from './reference-check.ts'
import { globalRisk, probabilityOut, spreadOfPopulation } from './risk.ts'
import { dwell_s, stabilityOf } from './stability.ts'

describe('waiting', () => {
  test('W11 dwell after a step of 25 %', () => {
    expect(dwell_s(0.2, 0.8, 25, 0.01)).toBeCloseTo(6.459, 3)
    expect(dwell_s(0.2, 1.6, 25, 0.01)).toBeCloseTo(12.718, 3)
    expect(dwell_s(0.2, 0.8, 0.005, 0.01)).toBe(0.2)
  })
  const series = (n: number, y: (t: number) => number) =>
    Array.from({ length: n }, (_, i) => [i * 0.5, y(i * 0.5)] as const)
  const rows: readonly [why: string, samples: (readonly [number, number])[], waits: RegExp | null][] = [
    ['too few', series(6, () => 1), /ten samples/],
    ['too short', series(11, () => 1), /three time constants/],
    ['drifting', series(40, (t) => 1 + 0.01 * t), /drift/],
    ['noisy', series(400, (t) => 1 + (Math.round(t * 2) % 2 === 0 ? 0.2 : -0.2)), /noise/],
    ['still', series(40, (t) => 1 + (Math.round(t * 2) % 2 === 0 ? 0.002 : -0.002)), null],
  ]
  test.each(rows)('%s', (_why, samples, waits) => {
    const s = stabilityOf(samples, 2, 0.1)
    expect(s.waitsFor).toEqual(waits ? expect.stringMatching(waits) : null)
    expect(s.stable).toBe(!waits)
  })
})

describe('decisions and risk', () => {
  test('W16 probability of being out', () => {
    expect(probabilityOut(0.21, 0.25, 0.03)).toBeCloseTo(0.09121, 5)
    expect(probabilityOut(0.19, 0.25, 0.03)).toBeCloseTo(0.02275, 5)
    expect(probabilityOut(0.25 - 1.645 * 0.03, 0.25, 0.03)).toBeCloseTo(0.04999, 4)
    expect(probabilityOut(0.3, 0.25, 0)).toBe(1)
  })
  test('W17 global risks, simple acceptance and guard band', () => {
    const u0 = spreadOfPopulation(0.25, 0.95)
    expect(u0).toBeCloseTo(0.127553, 6)
    const simple = globalRisk(0.25, 0.25, 0.03, u0)
    expect(simple.falseAccept).toBeCloseTo(0.008329, 6)
    expect(simple.falseReject).toBeCloseTo(0.014732, 6)
    const guarded = globalRisk(0.25, 0.19, 0.03, u0)
    expect(guarded.falseAccept).toBeCloseTo(0.000201, 6)
    expect(guarded.falseReject).toBeCloseTo(0.097257, 6)
  })
})

describe('drift and interval', () => {
  test('W18 rate, band and dates', () => {
    const d = driftOf(
      [
        { dt: 365, d: 0.035 },
        { dt: 372, d: 0.048 },
        { dt: 358, d: 0.029 },
        { dt: 366, d: 0.044 },
      ],
      0.012,
      0.25,
    )
    if (!d.enough) throw new Error('not enough')
    expect(d.rate).toBeCloseTo(1.07015e-4, 9)
    expect(d.s).toBeCloseTo(0.00803379, 8)
    expect(d.uRate).toBeCloseTo(1.09966e-5, 10)
    expect(d.t).toBeCloseTo(3.18245, 4)
    expect(d.significant).toBe(true)
    expect(d.central_days).toBeCloseTo(2223.99, 2)
    expect(d.earliest_days).toBeCloseTo(1637.59, 2)
    expect(d.extrapolated).toBe(true)
  })
  test('drift is as-found minus the as-left before it; two periods are too few', () => {
    const periods = periodsOf([
      { day: 700, asFound_pct: 0.1, asLeft_pct: 0.1 },
      { day: 0, asFound_pct: 0.3, asLeft_pct: 0.01 },
      { day: 365, asFound_pct: 0.06, asLeft_pct: 0.02 },
    ])
    expect(periods.map((p) => [p.dt, Number(p.d.toFixed(9))])).toEqual([
      [365, 0.05],
      [335, 0.08],
    ])
    expect(driftOf(periods, 0, 0.25)).toEqual({ enough: false, periods: 2 })
  })
  const stairs: readonly [used: number[], months: number][] = [
    [[0.42, 0.47], 15],
    [[0.42, 0.71], 12],
    [[0.88], 9],
    [[1.3], 6],
  ]
  test.each(stairs)('W19 12 months after %j become %d', (used, months) =>
    expect(staircase_months(12, used)).toBe(months),
  )
  test('W19 balanced pairs', () => {
    expect(balancedCut(0.9, 0.05)).toBeCloseTo(0.35539, 5)
    expect(balancedCut(0.95, 0.02)).toBeCloseTo(0.31357, 5)
  })
})

describe('references', () => {
  test('W20 normalised error and the value that stands apart', () => {
    expect(normalisedError(36.42, 36.15, 0.22, 0.18)).toMatchObject({
      En: expect.closeTo(0.94986, 5) as number,
      agrees: true,
    })
    const g = grubbs([0.11, 0.14, 0.12, 0.13, 0.15, 0.38])
    expect(g.G).toBeCloseTo(2.02192, 5)
    expect(g.critical).toBeCloseTo(1.88715, 4)
    expect(g.outlier).toBe(5)
    const criticals: readonly [number, number][] = [
      [3, 1.1543],
      [4, 1.4812],
      [5, 1.715],
      [8, 2.1266],
      [12, 2.4116],
    ]
    for (const [n, c] of criticals)
      expect(grubbs(Array.from({ length: n }, (_, i) => i)).critical).toBeCloseTo(c, 3)
  })
  test('W21 FT-206 against its baseline; nothing is extrapolated', () => {
    const certificate = [
      [3000, 0.06],
      [12000, 0.01],
      [24000, -0.02],
      [36000, 0.02],
    ].map(([at = 0, error = 0]) => ({ at, error }))
    const now = [
      [6000, 0.05],
      [18000, 0.03],
      [30000, 0.11],
    ].map(([at = 0, error = 0]) => ({ at, error }))
    const r = againstBaseline(certificate, now, 0.05, 0.06)
    expect(r.points.map((p) => p.baseline)).toEqual([
      expect.closeTo(0.04333, 5),
      expect.closeTo(-0.005, 9),
      expect.closeTo(0, 9),
    ])
    expect(r.points.map((p) => p.En)).toEqual([
      expect.closeTo(0.0854, 4),
      expect.closeTo(0.4481, 4),
      expect.closeTo(1.4084, 4),
    ])
    expect(r.agrees).toBe(false)
    expect(againstBaseline(certificate, [{ at: 40000, error: 0 }], 0.05, 0.06).points[0]?.En).toBeNull()
  })
  test('repeated runs widen by their few degrees of freedom', () => {
    const r = repeatedRuns([10.1, 10.3, 10.2], 0)
    expect(r.mean).toBeCloseTo(10.2, 12)
    expect(r.k).toBeCloseTo(4.527, 3)
    expect(repeatedRuns([10, 10, 10], 0.05)).toMatchObject({ k: 2 })
  })
  test('what was changed decides whether results compare', () => {
    const was = { lrv: 0, urv: 80, damping: 1, tag: 'PT-202', alarmCurrent: 3.6 }
    expect(configurationDifference(was, { ...was, tag: 'PT-203' }).verdict).toBe('COMPARABLE')
    expect(configurationDifference(was, { ...was, damping: 2 }).verdict).toBe('REVIEW')
    expect(configurationDifference(was, { ...was, urv: 85, damping: 2 }).verdict).toBe('NOT_COMPARABLE')
    expect(configurationDifference(was, { ...was, somethingNew: 1 }).verdict).toBe('NOT_COMPARABLE')
    expect(configurationDifference(was, { ...was, urv: 80.00000001 }).changed).toEqual([])
  })
  test('a trend of yearly checks', () => {
    expect(baselineTrend([0, 1, 2, 3], [0.1, 0.28, 0.61, 0.79])?.slope).toBeCloseTo(0.24, 9)
    expect(baselineTrend([0, 1], [0, 1])).toBeNull()
  })
})

describe('pulses, cycles, switches', () => {
  test('W22 a counter that rolled over', () => {
    const t = totalOf({
      K: 1000,
      start: 991_400,
      end: 2150,
      modulus: 1_000_000,
      reference: 10.74,
      flowPerHour: 36,
    })
    expect(t.N).toBe(10_750)
    expect(t.V).toBe(10.75)
    expect(t.error_pct).toBeCloseTo(0.09311, 5)
    expect(t.u_pct).toBeCloseTo(0.003798, 6)
    expect(t.f_Hz).toBeCloseTo(10, 12)
    expect(pulsesNeeded(0.1, 10)).toEqual({ pulses: 10_000, seconds: 1000 })
    expect(
      totalOf({
        K: 1000,
        start: 0,
        end: 900_000,
        modulus: 1_000_000,
        reference: 1,
        flowPerHour: 36,
        elapsed_s: 60,
      }).plausible,
    ).toBe(false)
  })
  test('W23 bounces, counts and cycle times', () => {
    const raw: readonly [number, boolean][] = [
      [1, true], [1.004, false], [1.009, true], [1.6, false], [11.2, true], [11.8, false],
      [12, true], [12.01, false], [21.1, true], [21.7, false],
    ] // prettier-ignore
    const edges = debounce(
      raw.map(([t, level]) => ({ t, level })),
      0.05,
      23,
    )
    expect(edges.filter((e) => e.level).map((e) => e.t)).toEqual([1.009, 11.2, 21.1])
    const c = cyclesOf([0, 10.2, 20.1, 38.4, 48.5, 348.5, 358.4], 10)
    expect(c.microStops).toBe(1)
    expect(c.microLoss_s).toBeCloseTo(8.3, 9)
    expect(c.downtime_s).toBeCloseTo(290, 9)
    expect(c.slowLoss_s).toBeCloseTo(0.3, 9)
    expect(c.p90).toBeCloseTo(159.15, 6)
    const o = effectiveness(28_800, 1800, 12, 2140, 2097)
    expect(o.A).toBeCloseTo(0.9375, 9)
    expect(o.P).toBeCloseTo(0.951111, 6)
    expect(o.Q).toBeCloseTo(0.979907, 6)
    expect(o.OEE).toBeCloseTo(0.87375, 9)
    expect(effectiveness(100, 0, 12, 20, 20).idealWrong).toBe(true)
  })
  test('W13 trip and reset with the latency taken out', () => {
    const s = switchPoints({
      setpoint: 62,
      rate: 0.5,
      latency_s: 0.4,
      trips: [62.21, 62.18, 62.24],
      resets: [59.79, 59.83, 59.8],
      T: 0.25,
    })
    expect(s.trip).toBeCloseTo(62.01, 9)
    expect(s.reset).toBeCloseTo(60.0067, 4)
    expect(s.deadband).toBeCloseTo(2.0033, 4)
    expect(s.repeatability).toBeCloseTo(0.06, 9)
    expect(s.passes).toBe(true)
    expect(
      switchPoints({ setpoint: 62, rate: 0.5, latency_s: 0, trips: [62], resets: [63], T: 1 }).passes,
    ).toBe(false)
  })
})
