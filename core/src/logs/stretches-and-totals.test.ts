import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { stabilityOf } from '../verify/stability.ts'
import { stableStretches } from './stable-stretches.ts'
import { series, T0 } from './test/series.ts'
import { totalOf, type TotalAsked } from './total.ts'

const sig = (x: number | undefined | null, n = 6) => Number(x?.toPrecision(n))

describe('where a value stands still', () => {
  const L6 = series({
    n: 240,
    level: 10,
    sd: 0.05,
    phi: 0.4,
    g: 0.001,
    wave: (i) => (i < 90 ? 0 : 4 * (1 - Math.exp(-(i - 90) / 8))),
  })
  test('the worked stretches', () => {
    const { stretches, seconds } = stableStretches(L6, 3, 1)
    expect(
      stretches.map((s) => [
        (s.from - T0) / 1000,
        (s.to - T0) / 1000,
        s.n,
        sig(s.mean),
        sig(s.sd),
        sig(s.slope),
        sig(s.uA),
        sig(s.uMean),
      ]),
    ).toEqual([
      [1, 91, 91, 10.0006, 0.06875, 0.000755502, 0.00720696, 0.00891988],
      [112, 121, 10, 13.8232, 0.0522114, 0.0105091, 0.0165107, 0.0180964],
      [122, 135, 14, 13.9852, 0.0526354, -0.00721978, 0.0140674, 0.0246424],
      [136, 239, 104, 14.0066, 0.0397726, -0.0000653046, 0.00390002, 0.00404536],
    ])
    expect(seconds).toBe(215)
  })
  test('each is stable by the rule of trimming, and none reaches over a gap', () => {
    const t = L6.t.map((x, i) => (i < 60 ? x : x + 30_000))
    const { stretches } = stableStretches({ t, v: L6.v }, 3, 1)
    for (const s of stretches) {
      const inside = t.flatMap((x, i) =>
        x >= s.from && x <= s.to ? [[x / 1000, L6.v[i] ?? 0] as const] : [],
      )
      expect(stabilityOf(inside, 3, 1).stable).toBe(true)
      expect(s.from < T0 + 60_000 && s.to > T0 + 60_000).toBe(false)
    }
    expect(stretches.length).toBeGreaterThan(3)
  })
  test('what never stands still has none', () => {
    expect(stableStretches({ t: L6.t, v: L6.t.map((_, i) => i) }, 3, 1)).toEqual({
      stretches: [],
      seconds: 0,
    })
  })
})

const asked = (a: Partial<TotalAsked> = {}): TotalAsked => ({
  per: 'h',
  cutoff: 0,
  gap: 'refuse',
  gapFactor: 5,
  uReading: 0,
  uZero: 0,
  ...a,
})

describe('totals', () => {
  test('reverse flow and a cut-off', () => {
    const log = series({
      n: 240,
      level: 0,
      sd: 0.5,
      phi: 0.6,
      g: 0.001,
      every_s: 5,
      wave: (i) => 5 * Math.sin(i / 25),
    })
    const told = totalOf(log, asked({ cutoff: 1, uReading: 0.5, uZero: 0.05 }))
    expect([sig(told.forward), sig(told.reverse), sig(told.net)]).toEqual([0.689761, 0.326039, 0.363722])
    expect([told.covered_s, told.zero_s, sig(told.uNoise), sig(told.u)]).toEqual([
      1195, 135, 0.00670744, 0.0179935,
    ])
  })
  const whole = series({ n: 240, level: 42, sd: 0.8, phi: 0.3, g: 0.001, every_s: 5 })
  const holed = {
    t: whole.t.filter((_, i) => i < 80 || i > 109),
    v: whole.v.filter((_, i) => i < 80 || i > 109),
  }
  test('a gap left out is said and never filled', () => {
    const told = totalOf(holed, asked())
    expect(told).toMatchObject({ covered_s: 1040, complete: false, held: 0 })
    expect([sig(told.net), told.gaps.map((g) => g.seconds), sig(told.u)]).toEqual([12.1435, [155], 0.0138892])
  })
  test('a gap held counts in the uncertainty; against a counter that began again', () => {
    const told = totalOf(
      holed,
      asked({ gap: 'hold', uReading: 0.5, totalizer: { start: 999_995, end: 8.9, modulus: 1e6, U: 0.02 } }),
    )
    expect([sig(told.net, 7), sig(told.held), told.covered_s, told.complete]).toEqual([
      13.89425,
      1.75072,
      1195,
      true,
    ])
    expect(sig(told.u)).toBe(0.0735728)
    expect(sig(told.totalizer?.volume)).toBe(13.9)
    expect([sig(told.totalizer?.difference_pct, 5), sig(told.totalizer?.En, 5)]).toEqual([
      -0.041382, -0.038735,
    ])
  })
  test('a counter that stood has no difference in percent', () => {
    expect(totalOf(whole, asked({ totalizer: { start: 5, end: 5 } })).totalizer).toMatchObject({
      volume: 0,
      difference_pct: null,
    })
  })
  test('forward and reverse as by many fine steps, whatever the rate does', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 2, maxLength: 30 }), (v) => {
        const told = totalOf({ t: v.map((_, i) => i * 1000), v }, asked({ per: 's' }))
        let [f, r] = [0, 0]
        const fine = 4000
        for (let i = 1; i < v.length; i++)
          for (let k = 0; k < fine; k++) {
            const [a = 0, b = 0] = [v[i - 1], v[i]]
            const x = a + ((b - a) * (k + 0.5)) / fine
            if (x > 0) f += x / fine
            else r -= x / fine
          }
        expect([told.forward, told.reverse, told.net]).toEqual([
          expect.closeTo(f, 3),
          expect.closeTo(r, 3),
          expect.closeTo(f - r, 3),
        ])
      }),
      { numRuns: 30 },
    )
  })
})
