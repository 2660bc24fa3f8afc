import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { T0 } from '../test/series.ts'
import { onGrid } from './common-base.ts'
import { baseOf, compareLogs, type CompareAsked, type Compared, comparedOf, lagsOf } from './compare.ts'
import { clocksApart, sayClocks } from './clocks.ts'
import { lagOf } from './lag.ts'
import { lagSumsAdded, lagSumsOf } from './lag-sums.ts'
import { lagPart, pairPart } from './parts.ts'
import { pairSumsJoined, pairSumsOf, spreadOf } from './pair-sums.ts'
import { partsOfTwo } from './seams.ts'
import { risen } from '../samples.ts'

const asked: CompareAsked = {
  maxLag_s: 40,
  ratio: 1,
  Ua: 0.4,
  Ub: 0.2,
  tau: 3,
  T: 4,
  gapFactor: 5,
  target: 0.05,
}
interface Log {
  readonly t: number[]
  readonly v: (number | null)[]
}
const flow = (s: number) => 50 + 6 * Math.sin(s / 47) + 4 * Math.sin(s / 19 + 1) + 3 * Math.sin(s / 111)
/** Two logs of one flow: gain, offset, lag in s, and how fast the clock of the first runs. */
function two(
  seed: number,
  n: number,
  o: { lag_s?: number; gain?: number; perDay_s?: number; every_s?: number } = {},
) {
  const g = new Generator(seed)
  const { lag_s = 7.3, gain = 1.02, perDay_s = 0, every_s = 1 } = o
  const log = (of: (s: number) => number): Log => {
    const s = Array.from({ length: n }, (_, i) => i * every_s)
    return { t: s.map((x) => T0 + 1000 * x), v: s.map((x) => Math.round(1e4 * of(x)) / 1e4) }
  }
  return {
    a: log((s) => -0.4 + gain * flow(s - lag_s - (perDay_s * s) / 86_400) + 0.1 * g.normal()),
    b: log((s) => flow(s) + 0.1 * g.normal()),
  }
}
const whole = (a: Log, b: Log, more: Partial<CompareAsked> = {}): Compared => {
  const told = compareLogs(a, b, { ...asked, ...more })
  if ('says' in told) throw new Error(told.says)
  return told
}
/** As the server does it: each part sees as much of its neighbours as the longest lag needs. */
function inParts(a: Log, b: Log, seams_s: readonly number[], more: Partial<CompareAsked> = {}): Compared {
  const base = baseOf([1000, 1000], asked)
  const origin = { a: 50, b: 49 }
  const times = [-1e6, ...seams_s, 1e9].map((s) => T0 + 1000 * s)
  const parts = times.slice(1).map((to, k) => {
    const from = times[k] ?? 0
    const see = (l: Log): Log => {
      const seen = l.t.map((x) => x >= from - 60_000 && x < to + 60_000)
      return { t: l.t.filter((_, i) => seen[i]), v: l.v.filter((_, i) => seen[i]) }
    }
    // The middle of what there is of it.
    const at = (Math.max(from, a.t[0] ?? 0) + Math.min(to, a.t.at(-1) ?? 0)) / 2
    return { own: { from, to }, a: see(a), b: see(b), at }
  })
  const o = { ...asked, ...base, origin }
  const sums = parts.map((p) => ({ at: p.at, sums: lagPart(p.a, p.b, { ...o, own: p.own }) }))
  const lag = lagOf(lagSumsAdded(sums.map((x) => x.sums)))
  const clocks = clocksApart(lagsOf(sums, base.step_ms), 1)
  const out = { ...o, ...(more.atOneTime ? { clocks } : {}), lag_ms: lag.steps * base.step_ms }
  const told = comparedOf(
    parts.map((p) => pairPart(p.a, p.b, { ...out, own: p.own })),
    lag,
    clocks,
    base,
    asked,
  )
  if ('says' in told) throw new Error(told.says)
  return told
}
const NUMBERS = [
  'n',
  'lag_s',
  'correlation',
  'meanDifference',
  'sdDifference',
  'uDifference',
  'slopeOnMean',
  'offset',
  'gain',
  'uOffset',
  'uGain',
  'residual',
  'En',
  'needed_s',
] as const
const digits = (x: number | null) => (x === null ? null : Number(x.toPrecision(7)))
const numbers = (c: Compared) => NUMBERS.map((key) => [key, digits(c[key])])

describe('two logs in parts are the two logs', () => {
  test.each<[string, number[]]>([
    ['in two', [1500]],
    ['in five', [400, 900, 901, 2400]],
    ['with a part that has nothing of its own', [-500, 700]],
    ['with a seam in a gap', [1205]],
  ])('%s', (_, seams) => {
    const { a, b } = two(7, 3000)
    for (let i = 1200; i < 1215; i++) b.v[i] = null
    const [x, y] = [whole(a, b), inParts(a, b, seams)]
    expect(numbers(y)).toEqual(numbers(x))
    expect(y.plot.reduce((n, m) => n + m.n, 0)).toBe(x.n)
    expect([Math.min(...y.plot.map((m) => m.min)), Math.max(...y.plot.map((m) => m.max))]).toEqual([
      Math.min(...x.plot.map((m) => m.min)),
      Math.max(...x.plot.map((m) => m.max)),
    ])
  })
  test('a clock that went back by an hour within them', () => {
    const { a, b } = two(13, 9000)
    const back = { t: a.t.map((t, i) => (i > 6000 ? t - 3_600_000 : t)), v: a.v }
    const [x, y] = [whole(back, b), inParts(back, b, [1000, 3000, 5000])]
    expect(numbers(y)).toEqual(numbers(x))
  })
  test('wherever the seams are', () => {
    const { a, b } = two(11, 1500, { lag_s: -12.6, gain: 0.97 })
    const told = numbers(whole(a, b))
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 50, max: 1450 }), { minLength: 1, maxLength: 5 }),
        (at) => {
          expect(
            numbers(
              inParts(
                a,
                b,
                at.sort((x, y) => x - y),
              ),
            ),
          ).toEqual(told)
        },
      ),
      { numRuns: 25 },
    )
  })
  test('where both stand still: but for a stretch that a seam cuts in two, the same', () => {
    const g = new Generator(5)
    const steps = (gain: number): Log => ({
      t: Array.from({ length: 2000 }, (_, i) => T0 + 1000 * i),
      v: Array.from({ length: 2000 }, (_, i) => gain * (20 + 5 * Math.floor(i / 250)) + 0.05 * g.normal()),
    })
    const [a, b] = [steps(1.02), steps(1)]
    const [x, y] = [whole(a, b).byStretch, inParts(a, b, [1000]).byStretch]
    expect(y?.points.length).toBe(x?.points.length)
    expect(y?.line?.gain).toBeCloseTo(x?.line?.gain ?? 0, 4)
  })
  test('two that are one differ by nothing, also in parts', () => {
    const { b } = two(3, 2000)
    for (const told of [whole(b, b), inParts(b, b, [800])])
      expect(told).toMatchObject({
        lag_s: expect.closeTo(0, 9) as number,
        meanDifference: expect.closeTo(0, 9) as number,
        sdDifference: expect.closeTo(0, 9) as number,
        gain: expect.closeTo(1, 9) as number,
      })
  })
})

describe('a lag through spectra is the lag one by one', () => {
  test.each([
    ['all of it', { from: -Infinity, to: Infinity }],
    ['a part', { from: T0 / 1000 + 300, to: T0 / 1000 + 800 }],
    ['a part without pairs', { from: 0, to: 5 }],
  ])('%s', (_, part) => {
    const { a, b } = two(9, 1200)
    for (let i = 500; i < 520; i++) a.v[i] = null
    const [onA, onB] = [onGrid(risen(a), 1000), onGrid(risen(b), 1000, () => 3500)]
    const origin = { a: 50, b: 50 }
    const x = lagSumsOf(onA, onB, 200, part, origin, 1e9)
    // At once, and in pieces of 200 points.
    for (const mostPoints of [1e6, 800]) {
      const y = lagSumsOf(onA, onB, 200, part, origin, 0, mostPoints)
      expect([...y.n]).toEqual([...x.n])
      for (const key of ['a', 'b', 'aa', 'bb', 'ab'] as const)
        expect([...y[key]]).toEqual([...x[key]].map((v) => expect.closeTo(v, 5) as number))
    }
  })
  test('a level has none, however it is looked for', () => {
    const level = onGrid(risen({ t: [0, 1000, 2000, 90_000], v: [7.1, 7.1, 7.1, 7.1] }, 100), 1000)
    const { b } = two(2, 90)
    const other = onGrid(risen({ t: b.t.map((x) => x - T0), v: b.v }), 1000)
    for (const most of [1e9, 0]) {
      const part = { from: -Infinity, to: Infinity }
      expect(lagOf(lagSumsOf(level, other, 20, part, { a: 7.3, b: 50 }, most))).toMatchObject({ steps: 0 })
      expect(lagOf(lagSumsOf(other, level, 20, part, { a: 50, b: 7.1 }, most))).toMatchObject({
        ambiguous: 'weak',
      })
    }
  })
  test('an hour of lag at ten samples a second', () => {
    const { a, b } = two(21, 60_000, { lag_s: 1234.5, every_s: 0.1 })
    const told = compareLogs(a, b, { ...asked, maxLag_s: 3600 })
    expect('says' in told ? told.says : told.lag_s).toBeCloseTo(1234.5, 1)
  })
})

describe('stretches are of one time', () => {
  /** Ten levels in turn, each for five minutes; the first log stamps them later, and shows 1 % more. */
  const levels = (later_s: (s: number) => number, gain: number, seed: number): Log => {
    const g = new Generator(seed)
    const s = Array.from({ length: 9000 }, (_, i) => i)
    const level = (x: number) => 40 + 6 * (Math.floor(Math.max(0, x) / 300) % 5)
    return {
      t: s.map((x) => T0 + 1000 * x),
      v: s.map((x) => gain * level(x - later_s(x)) + 0.02 * g.normal()),
    }
  }
  const b = levels(() => 0, 1, 3)
  const errors = (a: Log, o: Partial<CompareAsked>) => {
    const told = compareLogs(a, b, { ...asked, maxLag_s: 60, ...o })
    if ('says' in told) throw new Error(told.says)
    return told.byStretch?.points.map((p) => (100 * p.difference) / p.b) ?? []
  }
  const far = (all: readonly number[]) => all.filter((e) => Math.abs(e - 1) > 0.5).length
  test.each<[string, (s: number) => number]>([
    ['half a minute late', () => 35],
    ['half a minute early', () => -35],
    ['a clock that runs away', (s) => 15 + s / 250],
  ])('%s: an old level is never held against the new one', (_, later) => {
    const a = levels(later, 1.01, 4)
    // Without it the rule of the reference takes what both show while one of them is late for an error.
    expect(far(errors(a, {}))).toBeGreaterThan(15)
    const told = errors(a, { atOneTime: true })
    expect(far(told)).toBe(0)
    expect(told.length).toBeGreaterThan(20)
  })
  test('of two that come together none is lost', () => {
    const a = levels(() => 0, 1.01, 4)
    expect(errors(a, { atOneTime: true })).toEqual(errors(a, {}))
  })
})

test('logs with long gaps between them are compared, however far their ends lie apart', () => {
  const { a, b } = two(17, 3000)
  const apart = (l: Log): Log => ({ t: l.t.map((t, i) => (i < 1500 ? t : t + 3_000_000_000)), v: l.v })
  const told = compareLogs(apart(a), apart(b), asked)
  expect('says' in told ? told.says : told.lag_s).toBeCloseTo(7.3, 1)
})

describe('the clocks of two logs', () => {
  const DAY = 86_400
  test.each([
    ['four seconds a day', 4],
    ['back by ten', -10],
    ['six and a half', 6.5],
  ])('run apart by %s', (_, perDay_s) => {
    const { a, b } = two(31, DAY / 4, { perDay_s, every_s: 4 })
    const told = whole(a, b).clocks
    expect(told?.perDay_s).toBeCloseTo(perDay_s, 0)
    expect((told?.last_s ?? 0) - (told?.first_s ?? 0)).toBeCloseTo((7 / 8) * perDay_s, 0)
  })
  test.each([
    [4, 'from 1.2 s to 49 s: the clock of “Trend” gains 4 ± 0.3 s a day'],
    [-4, 'from 1.2 s to 49 s: the clock of “Trend” loses 4 ± 0.3 s a day'],
  ])('are told: %d s a day', (perDay_s, says) => {
    const told = { perDay_s, uPerDay_s: 0.15, from: 0, first_s: 1.2, last_s: 49 }
    expect(sayClocks({ ...told, scatter_s: 0.3 }, 'Trend', 1)).toContain(says)
    // Nothing is said of a line on which the lags lie; about one they wander about, it is.
    expect(sayClocks({ ...told, scatter_s: 0.3 }, 'Trend', 1)).toMatch(/taken out\.$/)
    expect(sayClocks({ ...told, scatter_s: 4.4 }, 'Trend', 1)).toContain('it wanders by 4.4 s')
  })
  test.each([
    ['at once', (a: Log, b: Log) => whole(a, b, { atOneTime: true })],
    ['in parts', (a: Log, b: Log) => inParts(a, b, [2000, 4000, 6000, 8000, 10_000], { atOneTime: true })],
  ])('that run apart are taken out of the differences and the line, %s', (_, compared) => {
    const { a, b } = two(31, 12_000, { perDay_s: 120 })
    const [one, each] = [whole(a, b), compared(a, b)]
    // With one lag the pairs lie up to eight seconds apart at the ends: scatter that is none of the meters.
    expect(one.sdDifference).toBeGreaterThan(2 * each.sdDifference)
    expect(each.sdDifference).toBeLessThan(0.25)
    expect(Math.abs((each.gain ?? 0) - 1.02)).toBeLessThan(2 * (each.uGain ?? 0))
    expect(Math.abs((each.offset ?? 0) + 0.4)).toBeLessThan(2 * (each.uOffset ?? 0))
  })
  test('that run alike change nothing', () => {
    const { a, b } = two(5, 9000)
    expect(whole(a, b, { atOneTime: true, tau: undefined })).toEqual(whole(a, b, { tau: undefined }))
  })
  test('a log that stamps what happened later and later has a fast clock', () => {
    const { a, b } = two(31, 20_000, { perDay_s: 9, every_s: 4 })
    const told = whole(a, b).clocks
    expect(told && sayClocks(told, 'First', 4)).toContain('the clock of “First” gains 9')
    const back = whole(b, a).clocks
    expect(back && sayClocks(back, 'Second', 4)).toContain('the clock of “Second” loses 9')
  })
  test('run alike: nothing is said, in none of forty', () => {
    const told = Array.from({ length: 40 }, (_, i) => {
      const { a, b } = two(100 + i, 9000)
      return whole(a, b).clocks
    })
    expect(told.filter((c) => c !== null)).toEqual([])
  })
  test.each<[string, number[], boolean]>([
    ['three parts', [1, 2, 3], false],
    ['a share of a step', [1, 1.1, 1.2, 1.3], false],
    ['one that is far off', [1, 1, 9, 1, 1, 1], false],
    ['a line', [1, 3.1, 4.9, 7, 9.1], true],
    ['scatter', [1, 5, 2, 6, 3, 4], false],
  ])('lags of %s', (_, lags, apart) => {
    const told = clocksApart(
      lags.map((lag_s, i) => ({ at: i * 3_600_000, lag_s })),
      1,
    )
    expect(told !== null).toBe(apart)
  })
})

test('sums of pairs joined are those of all pairs, far from their origin too', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 0, max: 1000 })), {
        minLength: 4,
        maxLength: 60,
      }),
      fc.integer({ min: 0, max: 60 }),
      (pairs, at) => {
        const [a, b] = [pairs.map((p) => 1e5 + (p[0] ?? 0)), pairs.map((p) => 1e5 + (p[1] ?? 0))]
        const origin = { a: 1e5, b: 1e5 }
        const part = (from: number, to?: number) => pairSumsOf(a.slice(from, to), b.slice(from, to), origin)
        const joined = pairSumsJoined([part(0, at), part(at)])
        const all = pairSumsOf(a, b, { a: 1e5 + 300, b: 1e5 - 40 })
        if (!joined) throw new Error('nothing was joined')
        const [x, y] = [spreadOf(joined), spreadOf(all)]
        expect(x.n).toBe(y.n)
        for (const key of ['meanA', 'meanB', 'saa', 'sbb', 'sab'] as const)
          expect(x[key]).toBeCloseTo(y[key], 3)
        // Against the sums written out.
        const d = a.map((v, i) => v - (b[i] ?? 0))
        const mean = d.reduce((s, v) => s + v, 0) / d.length
        const e = d.map((v) => v - mean)
        const squares = e.reduce((s, v) => s + v * v, 0)
        const { squares: told, r1 } = x.residuals(1, 0)
        expect(told).toBeCloseTo(squares, 3)
        const r = squares > 0 ? e.reduce((s, v, i) => s + v * (e[i + 1] ?? 0), 0) / squares : 0
        const corrected = squares > 0 ? Math.min(0.99, Math.max(0, r + (1 + 4 * r) / e.length)) : 0
        expect(r1).toBeCloseTo(corrected, 6)
      },
    ),
    { numRuns: 100 },
  )
})

describe('the parts of two logs', () => {
  const blocks = (n: number, every: number, rows = 100, later = 0) =>
    Array.from({ length: n }, (_, b) => ({
      rows,
      from: later + b * rows * every,
      to: later + ((b + 1) * rows - 1) * every,
    }))
  const seams = (a: ReturnType<typeof blocks>, b: ReturnType<typeof blocks>, margin = 50, most = 1000) =>
    partsOfTwo(a, b, margin, most, 400)?.map((p) => p.from)
  test.each<[string, ReturnType<typeof blocks>, ReturnType<typeof blocks>, number[]]>([
    ['alike', blocks(9, 1), blocks(9, 1), [-Infinity, 400, 800]],
    ['one ten times as dense', blocks(9, 1), blocks(1, 10), [-Infinity, 400, 800]],
    ['the second begins later', blocks(9, 1), blocks(4, 1, 100, 650), [-Infinity, 400, 750]],
    ['short ones', blocks(2, 1), blocks(2, 1), [-Infinity]],
  ])('%s', (_, a, b, told) => {
    expect(seams(a, b)).toEqual(told)
  })
  test('a clock that went back again and again leaves too much in one time', () => {
    const back = Array.from({ length: 12 }, () => blocks(6, 1)).flat()
    expect(seams(back, blocks(6, 1), 10, 800)).toBeUndefined()
  })
  test('none with a margin that asks for more than can be looked at', () => {
    expect(seams(blocks(9, 1), blocks(9, 1), 5000, 800)).toBeUndefined()
  })
})
