import { describe, expect, test } from 'vitest'
import { Chain } from '../../signal/chain.ts'
import { explain, toldShapes, type Explanation } from './explain.ts'
import { segmentOf, type Link } from './links.ts'
import { locate } from './locate.ts'
import { nextMeasurement } from './next-measurement.ts'
import { componentsOf, type Point, type ShapeContext, type SimpleShape } from './shapes.ts'
import { WORKED_CODES } from '../../signal/test/worked-codes.ts'

const PT202 = Chain.parse({ ...WORKED_CODES, lrv: 0, urv: 80, inUnit: 'bar', lo: 0, hi: 80, unit: 'bar' })
const FT203 = Chain.parse({
  lrv: 0,
  urv: 400,
  inUnit: 'mbar',
  transfer: 'sqrt',
  sqrtAt: 'tx',
  lo: 0,
  hi: 90,
  unit: 'm3/h',
})
/** Readings from end to end: applied and shown, u of what is shown, T in % of span. */
function endToEnd(
  chain: Chain,
  pairs: readonly (readonly [number, number])[],
  u: number,
  T_pct: number,
): Explanation {
  const segment = segmentOf(chain, 'IN', 'EU')
  if (!segment) throw new Error('no segment')
  const points = pairs.map(([x, y]): Point => ({
    F: segment.law((x - chain.lrv) / (chain.urv - chain.lrv)),
    r: (y - chain.lo) / (chain.hi - chain.lo),
    s: u / (chain.hi - chain.lo),
    dir: 1,
  }))
  return explain({ chain, segment, points }, T_pct / 100)
}
const P = (e: Explanation, shape: string) => e.ranked.find((r) => r.shape === shape)?.P ?? 0

describe('naming the mistake from readings', () => {
  test('W4 two pairs name a receiver that reads 0-20 mA', () => {
    const e = endToEnd(
      PT202,
      [
        [20, 32.1],
        [60, 63.9],
      ],
      0.03,
      0.5,
    )
    expect(e.answer).toBe('named')
    expect(e.ranked.slice(0, 3).map((r) => r.shape)).toEqual(['LIVE0_RX', 'RANGE_LO', 'RANGE_BOTH'])
    expect(P(e, 'LIVE0_RX')).toBeCloseTo(0.98428, 5)
    expect(P(e, 'RANGE_LO')).toBeCloseTo(0.01563, 5)
    expect(P(e, 'RANGE_BOTH')).toBeCloseTo(8.9e-5, 6)
  })
  test('W5 two pairs are not enough, and where to look', () => {
    const e = endToEnd(
      PT202,
      [
        [0, 0.01],
        [40, 38.8],
      ],
      0.03,
      0.5,
    )
    expect(e.answer).toBe('likely')
    for (const [shape, p] of [
      // A second load beside the shunt is a cause of its own since: it takes a ten-thousandth of them.
      ['GAIN', 0.5623],
      ['BOW', 0.3002],
      ['RANGE_HI', 0.0665],
      ['OFFSET_GAIN', 0.0395],
      ['CLAMP_HI', 0.0291],
    ] as const)
      expect(P(e, shape), shape).toBeCloseTo(p, 4)
    expect(e.ranked[0]?.quantities[0]?.value).toBeCloseTo(-3.01, 2)
    const S = (u: number) => e.lookNext.find((x) => Math.abs(x.u - u) < 1e-9)?.S ?? 0
    for (const [u, s] of [
      [0.25, 0.0842],
      [0.5, 0.0006],
      [0.6, 0.0949],
      [0.75, 0.2],
      [1, 0.2007],
    ] as const)
      expect(S(u), String(u)).toBeCloseTo(s, 4)
    expect(e.lookNext[0]?.u).toBe(1)
  })
  const third: readonly [y: number, shape: string, p: number][] = [
    [77.6, 'GAIN', 0.8404],
    [79.97, 'BOW', 0.999],
    [38.8, 'CLAMP_HI', 0.999],
  ]
  test.each(third)('W5 with a third pair at 80 reading %d: %s', (y, shape, p) => {
    const e = endToEnd(
      PT202,
      [
        [0, 0.01],
        [40, 38.8],
        [80, y],
      ],
      0.03,
      0.5,
    )
    expect(e.ranked[0]?.shape).toBe(shape)
    // What is as good as certain is only told to be more than that.
    expect(p < 0.99 ? Math.abs(P(e, shape) - p) < 5e-5 : P(e, shape) > p).toBe(true)
  })
  test('W6 the root taken twice', () => {
    const e = endToEnd(
      FT203,
      [
        [36, 49.35],
        [196, 75.25],
      ],
      0.05,
      0.5,
    )
    expect(e.ranked[0]?.shape).toBe('SQRT_EXTRA')
    // Two readings also fit a zero shift of 21 % before the root: the rest.
    expect(P(e, 'SQRT_EXTRA')).toBeCloseTo(0.9989, 4)
  })
  test('a healthy loop is not ranked, one pair is not enough', () => {
    expect(
      endToEnd(
        PT202,
        [
          [0, 0.02],
          [40, 40.05],
          [80, 79.9],
        ],
        0.03,
        0.5,
      ).state,
    ).toBe('NONE')
    expect(endToEnd(PT202, [[40, 44]], 0.03, 0.5).state).toBe('NEED_MORE')
  })
  test('readings without uncertainty, and ones that make no sense, still give an answer', () => {
    const certain = endToEnd(
      PT202,
      [
        [0, 0],
        [40, 44],
        [80, 88],
      ],
      0,
      0,
    )
    expect(certain.ranked.reduce((s, r) => s + r.P, 0)).toBeCloseTo(1, 9)
    const nonsense = endToEnd(
      PT202,
      [
        [0, 70],
        [40, -30],
        [80, 20],
        [60, 200],
      ],
      0.03,
      0.5,
    )
    // It has no name: what no known mistake makes leads to the next reading.
    expect(nonsense.answer).toBe('unknown')
    expect(toldShapes(nonsense)).toEqual([])
    expect(P(nonsense, 'UNKNOWN')).toBeGreaterThan(0.9)
    for (const r of nonsense.ranked) expect(Number.isFinite(r.P)).toBe(true)
  })
})

describe('signatures', () => {
  const F = [0, 0.25, 0.5, 0.75, 1]
  const context = (chain: Chain): ShapeContext => ({
    chain,
    segment: segmentOf(chain, 'IN', 'EU') ?? (undefined as never),
    points: F.map((x) => ({ F: x, r: x, s: 0, dir: 1, cens: 0 })),
  })
  /** The law's value in percent, with its free number or for the component picked. */
  function law(chain: Chain, shape: SimpleShape, theta: number, pick = 0): number[] {
    const c = componentsOf(shape, context(chain))[pick]
    if (!c) throw new Error(shape)
    return F.map((x, i) => 100 * (c.mean(x, i) + (c.columns[0]?.(x, i) ?? 0) * theta))
  }
  const rows: readonly [shape: SimpleShape, chain: Chain, theta: number, pick: number, values: number[]][] = [
    ['GAIN', PT202, 0.01, 0, [0, 25.25, 50.5, 75.75, 101]],
    ['OFFSET', PT202, 0.01, 0, [1, 26, 51, 76, 101]],
    ['GAIN_LIVE', PT202, 0, 6, [-0.1, 24.8, 49.7, 74.6, 99.5]],
    ['GAIN_LIVE', PT202, 0, 10, [25, 75, 125, 175, 225]],
    ['LIVE0_TX', PT202, 0, 0, [-25, 6.25, 37.5, 68.75, 100]],
    ['LIVE0_RX', PT202, 0, 0, [20, 40, 60, 80, 100]],
    ['SQRT_EXTRA', PT202, 0, 0, [0, 50, 70.711, 86.603, 100]],
    ['SQRT_MISSING', FT203, 0, 0, [0, 6.25, 25, 56.25, 100]],
    ['REVERSED', PT202, 0, 0, [100, 75, 50, 25, 0]],
    ['RANGE_HI', PT202, 0.25, 0, [0, 31.25, 62.5, 93.75, 125]],
    ['COUNTS_FS', PT202, 0, 5, [0, 21.094, 42.189, 63.283, 84.378]],
  ]
  test.each(rows)('%s', (shape, chain, theta, pick, values) =>
    law(chain, shape, theta, pick).forEach((v, i) => expect(v).toBeCloseTo(values[i] ?? 0, 2)),
  )
  test('OFFSET_IN c = .01: a zero shift before the root', () => {
    const list = componentsOf('OFFSET_IN', context(FT203))
    const shift = (c: (typeof list)[number]) => c.mean(0, 0) ** 2
    const near = list.reduce((b, c) => (Math.abs(shift(c) - 0.01) < Math.abs(shift(b) - 0.01) ? c : b))
    // Between two of the shifts that are looked at it is a line.
    const values = F.map(
      (x, i) => 100 * (near.mean(x, i) + (near.columns[0]?.(x, i) ?? 0) * (0.01 - shift(near))),
    )
    ;[10, 26.926, 50.99, 75.664, 100.499].forEach((v, i) =>
      expect(Math.abs((values[i] ?? 0) - v)).toBeLessThan(0.1),
    )
  })
})

describe('where the error comes in', () => {
  const LT301 = Chain.parse({ ...WORKED_CODES, lrv: 0, urv: 6.5, inUnit: 'm', lo: 0, hi: 6.5, unit: 'm' })
  const level = (IN: number, PV: number, MA: number, V: number, CNT: number, EU: number) => ({
    values: { IN, PV, MA, V, CNT, EU },
    dir: 1 as const,
  })
  const task = {
    chain: LT301,
    levels: [
      level(0.65, 0.6505, 5.6, 1.3956, 2734, 0.6428),
      level(3.25, 3.2495, 11.999, 2.9903, 13757, 3.2342),
      level(5.85, 5.8503, 18.401, 4.5855, 24783, 5.8264),
    ],
    u: { IN: 0.001, PV: 0.0005, MA: 0.002, V: 0.0005, CNT: 1, EU: 0.0005 },
    tol: { PV: 0.15, PCT: 0.02, MA: 0.1, V: 0.05, CNT: 0.05, EU: 0.05 },
  }
  test('W7 LT-301: only the shunt is out', () => {
    const l = locate(task)
    const rows: readonly [string, number[], number, number, string][] = [
      ['IN>PV', [0.0077, -0.0077, 0.0046], 0.0344, 0.15, 'WITHIN'],
      ['PV>MA', [-0.0077, 0.0014, 0.0016], 0.0294, 0.12, 'WITHIN'],
      ['MA>V', [-0.11, -0.2362, -0.3688], 0.0354, 0.05, 'OUT'],
      ['V>CNT', [-0.0014, 0.0002, 0.0001], 0.026, 0.05, 'WITHIN'],
      ['CNT>EU', [0.0006, -0.0007, -0.0007], 0.017, 0.05, 'WITHIN'],
    ]
    expect(l.segments.map((s) => `${s.from}>${s.to}`)).toEqual(rows.map(([n]) => n))
    rows.forEach(([, residuals, U, T, state], i) => {
      const s = l.segments[i]
      residuals.forEach((r, k) => expect(s?.residuals_pct[k]).toBeCloseTo(r, 4))
      expect(s?.U_pct[0]).toBeCloseTo(U, 4)
      expect(s?.T_pct).toBeCloseTo(T, 9)
      expect(s?.state).toBe(state)
    })
    const named = l.firstOut?.explanation?.ranked[0]
    expect(named?.shape).toBe('GAIN_LIVE')
    expect(named?.P).toBeGreaterThan(0.999999)
    expect(named?.quantities[0]?.value).toBeCloseTo(249.2, 1)
  })
  test('faults that cancel from end to end still show inside', () => {
    const l = locate({
      ...task,
      levels: [level(0, 0.065, 4, 1, 0, 0), level(6.5, 6.565, 20, 5, 27648, 6.5)],
    })
    expect(l.segments.filter((s) => s.state === 'OUT').map((s) => `${s.from}>${s.to}`)).toEqual([
      'IN>PV',
      'PV>MA',
    ])
    expect(l.endToEnd?.state).toBe('WITHIN')
  })
  test('one level only: the segment is told, its cause is not', () => {
    const l = locate({ ...task, levels: task.levels.slice(0, 1) })
    expect(l.firstOut?.to).toBe('V')
    expect(l.firstOut?.explanation?.state).toBe('NEED_MORE')
  })
  test('an uncertainty too large leaves it open and says which would do', () => {
    const l = locate({ ...task, u: { ...task.u, MA: 0.06 } })
    const s = l.segments.find((x) => x.to === 'V')
    expect(s?.state).toBe('INDETERMINATE')
    expect(s?.neededU_pct).toBeCloseTo(0.06, 2)
  })
  test('a display in the loop is compared with the current, not with the card', () => {
    const chain = Chain.parse({
      ...LT301,
      dsp: { lo: 0, hi: 6.5, unit: 'm', decimals: 2, from: 'MA' },
    })
    const l = locate({
      chain,
      u: { MA: 0.002, EU: 0.001, DSP: 0.01 },
      tol: { V: 0.05, CNT: 0.05, EU: 0.05, DSP: 0.3 },
      levels: [
        { values: { MA: 8, EU: 1.625, DSP: 0.81 }, dir: 1 },
        { values: { MA: 16, EU: 4.875, DSP: 2.44 }, dir: 1 },
      ],
    })
    expect(l.segments.map((s) => [`${s.from}>${s.to}`, s.state])).toEqual([
      ['MA>EU', 'WITHIN'],
      ['MA>DSP', 'OUT'],
    ])
  })
})

describe('next best measurement', () => {
  test('W8 from nothing, then with MA read good', () => {
    const n = nextMeasurement({ readings: [] })
    expect(n.entropy_bit).toBeCloseTo(2.66514, 5)
    const printed: readonly [string, number][] = [
      ['PV', 0.69514],
      ['PCT', 0.75672],
      ['MA', 0.78543],
      ['V', 0.71914],
      ['CNT', 0.60868],
      ['EU', 0.32014],
    ]
    printed.forEach(([at, gain], i) => {
      expect(n.gains[i]?.at).toBe(at)
      expect(n.gains[i]?.gain_bit).toBeCloseTo(gain, 5)
    })
    expect([n.bestByGain, n.bestPerMinute]).toEqual(['MA', 'PCT'])
    expect(n.gains.find((g) => g.at === 'PCT')?.perMinute).toBeCloseTo(0.37836, 5)
    expect(n.gains.find((g) => g.at === 'MA')?.pGood).toBeCloseTo(0.515, 3)
    const good = nextMeasurement({ readings: [{ at: 'MA', good: true }] })
    const posterior: readonly [Link, number][] = [
      ['IN>PV', 0.0291],
      ['PV>PCT', 0.0078],
      ['PCT>MA', 0.0117],
      ['MA>V', 0.2854],
      ['V>CNT', 0.1903],
      ['CNT>EU', 0.2854],
      ['EU>DSP', 0.1903],
    ]
    for (const [link, p] of posterior) expect(good.posterior[link]).toBeCloseTo(p, 4)
    expect(good.gains.find((g) => g.at === 'V')?.gain_bit).toBeCloseTo(0.72569, 5)
    expect(good.gains.find((g) => g.at === 'CNT')?.gain_bit).toBeCloseTo(0.7824, 5)
    expect(good.gains.find((g) => g.at === 'EU')?.gain_bit).toBeCloseTo(0.51388, 5)
    expect(good.bestByGain).toBe('CNT')
  })
  test('bad and good on either side of a link find it', () => {
    const n = nextMeasurement({
      readings: [
        { at: 'MA', good: true },
        { at: 'V', good: false },
        { at: 'MA', good: true },
      ],
    })
    expect(n.found).toBe('MA>V')
  })
})
