import { describe, expect, test } from 'vitest'
import { bestPosition } from '../best-position.ts'
import { rounded, series, sumOfTwelve, T0 } from '../test/series.ts'
import { compareLogs, type CompareAsked, type Compared } from './compare.ts'
import { demingLine, yorkLine } from './line-of-two.ts'
import { pairSumsOf, spreadOf } from './pair-sums.ts'

const sig = (x: number | null | undefined, n = 6) => Number(x?.toPrecision(n))
const flow = (s: number) => 50 + 6 * Math.sin(s / 47) + 4 * Math.sin(s / 19 + 1) + 3 * Math.sin(s / 111)
const times = Array.from({ length: 600 }, (_, i) => T0 + i * 1000)
const z = sumOfTwelve()
const a = { t: times, v: times.map((_, i) => rounded(-0.4 + 1.02 * flow(i - 7.3) + 0.1 * z(), 1e-4)) }
const b = { t: times, v: times.map((_, i) => rounded(flow(i) + 0.1 * z(), 1e-4)) }
const asked = (o: Partial<CompareAsked> = {}): CompareAsked => ({
  maxLag_s: 60,
  ratio: 1,
  Ua: 0,
  Ub: 0,
  gapFactor: 5,
  ...o,
})
const compared = (x: typeof a, y: typeof a, o: Partial<CompareAsked> = {}): Compared => {
  const told = compareLogs(x, y, asked(o))
  if ('says' in told) throw new Error(told.says)
  return told
}

describe('two logs of one flow', () => {
  test('the worked pair: lag, difference, line, En', () => {
    const told = compared(a, b, { Ua: 0.4, Ub: 0.2, target: 0.05 })
    expect(told).toMatchObject({ n: 591, step_ms: 1000, ambiguous: null })
    expect([told.lag_s, told.correlation].map((x) => sig(x))).toEqual([7.36694, 0.999634])
    expect([told.meanDifference, told.sdDifference, told.uDifference].map((x) => sig(x))).toEqual([
      0.604225, 0.185083, 0.0151934,
    ])
    expect(told.limits.map((x) => sig(x))).toEqual([0.241462, 0.966989])
    expect([told.gain, told.uGain, told.offset, told.uOffset].map((x) => sig(x))).toEqual([
      1.02302, 0.00107218, -0.551748, 0.0541899,
    ])
    expect([told.slopeOnMean, told.residual, told.En, told.needed_s].map((x) => sig(x))).toEqual([
      0.0227598, 0.129231, 1.34798, 218.283,
    ])
  })
  test('exchanged, the lag is the other way round', () => {
    expect(compared(b, a).lag_s).toBeCloseTo(-7.37, 1)
  })
  test('a lag that cannot be told is 0 and says why', () => {
    const noise = (seed: number) => series({ n: 600, level: 50, sd: 1, phi: 0, g: 0, z: sumOfTwelve(seed) })
    expect(compared(noise(5), noise(77))).toMatchObject({ ambiguous: 'weak', lag_s: 0 })
    expect(compared(a, b, { maxLag_s: 5 })).toMatchObject({ ambiguous: 'edge', lag_s: 0 })
    const wave = { t: times, v: times.map((_, i) => Math.sin(i / 4)) }
    expect(compared(wave, wave)).toMatchObject({ ambiguous: 'rival', lag_s: 0 })
  })
  test('two levels have a difference and no line', () => {
    const level = (x: number) => ({ t: times.slice(0, 49), v: times.slice(0, 49).map(() => x) })
    expect(compared(level(1), level(2), { Ua: 0.1, Ub: 0.1 })).toMatchObject({
      meanDifference: -1,
      gain: null,
      offset: null,
    })
  })
  test('a lag that would be looked for without end is refused at its place', () => {
    const long = series({ n: 5000, level: 5, sd: 1, phi: 0.9, g: 0 })
    expect(compareLogs(long, long, asked({ maxLag_s: 86_400, step_ms: 20 }))).toMatchObject({
      where: 'maxLag_s',
    })
  })
  test('by stretches in which both stand still, without a lag', () => {
    const levels = (gain: number, later: number, seed: number) =>
      series({
        n: 1200,
        level: 0,
        sd: 0.05,
        phi: 0,
        g: 0,
        z: sumOfTwelve(seed),
        wave: (i) => gain * (10 + 5 * Math.floor(Math.max(0, i - later) / 300)),
      })
    const told = compared(levels(1.02, 4, 3), levels(1, 0, 9), { tau: 3, T: 1, Ua: 0.1, Ub: 0.1 }).byStretch
    expect(told?.points.length).toBeGreaterThanOrEqual(4)
    expect(told?.line?.gain).toBeCloseTo(1.02, 2)
    expect(told?.points.filter((p) => p.n > 100).map((p) => sig(p.difference, 1))).toEqual([
      0.2, 0.3, 0.4, 0.5,
    ])
  })
  test.each<[string, typeof a, typeof a, RegExp]>([
    ['one sample', { t: [1], v: [1] }, b, /first log has fewer than two/],
    ['no time in common', { t: times.map((x) => x + 1e7), v: a.v }, b, /hardly a time in common/],
  ])('%s is said', (_why, x, y, says) => {
    const told = compareLogs(x, y, asked())
    expect('says' in told && told.says).toMatch(says)
  })
})

describe('lines where both carry errors', () => {
  const x = [10.02, 20.05, 29.93, 40.1]
  const y = [10.31, 20.47, 30.48, 40.83]
  const [ux, uy] = [
    [0.05, 0.05, 0.06, 0.08],
    [0.05, 0.06, 0.06, 0.09],
  ]
  const points = x.map((_, i) => ({ x: x[i] ?? 0, y: y[i] ?? 0, ux: ux[i] ?? 0, uy: uy[i] ?? 0 }))
  test('each point with its own', () => {
    const line = yorkLine(points)
    expect([line?.offset, line?.uOffset, line?.gain, line?.uGain, line?.chi2].map((n) => sig(n))).toEqual([
      0.142897, 0.0970951, 1.01407, 0.00409571, 0.0740344,
    ])
  })
  test('in a known ratio', () => {
    const line = demingLine(spreadOf(pairSumsOf(y, x, { a: 20, b: 20 })), 1)
    expect([line?.offset, line?.gain].map((n) => sig(n))).toEqual([0.134924, 1.01449])
    expect([line?.uOffset, line?.uGain].map((n) => sig(n))).toEqual([0.0224208, 0.000817843])
  })
  test('two points, or all at one place, have none', () => {
    expect(yorkLine(points.slice(0, 2))).toBeNull()
    expect(yorkLine(points.map((p) => ({ ...p, x: 5 })))).toBeNull()
    expect(demingLine(spreadOf(pairSumsOf([1, 2, 3], [4, 4, 4], { a: 0, b: 0 })), 1)).toBeNull()
  })
})

describe('the best position of a sensor', () => {
  const tries = (p: number[], q: number[]) => p.map((x, i) => [x, q[i] ?? 0] as const)
  test('from five tries', () => {
    const told = bestPosition(tries([10, 20, 30, 40, 50], [61, 78, 84, 80, 66]))
    expect(told.state).toBe('FOUND')
    expect([told.best, told.expected, told.u].map((x) => sig(x))).toEqual([31.1667, 84.1557, 0.0749085])
  })
  test.each([
    [[10, 20, 30], [61, 70, 78], 'OUTSIDE', 40],
    [[10, 20, 30, 40], [61, 70, 60, 72], 'NO_PEAK', 40],
    [[10, 20, 20], [61, 70, 60], 'NEED_MORE', null],
  ])('%j with %j: %s', (p, q, state, best) => {
    expect(bestPosition(tries(p, q))).toMatchObject({ state, best })
  })
})
