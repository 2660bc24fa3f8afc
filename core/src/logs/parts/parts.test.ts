import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { blockOf } from '../blocks.ts'
import { type LogFinding, USUAL_JUDGEMENT } from '../findings/finding.ts'
import { judgeLog } from '../findings/judge.ts'
import { rounded, T0 } from '../test/series.ts'
import { judgePart } from './judge-part.ts'
import { judgeParts } from './judge-parts.ts'
import { partsOf } from './seams.ts'

const SMALL = { own: 8192, margin: 2048 }
const ROWS = 1024
const range = { lo: 0, hi: 100 }
const settings = { ...USUAL_JUDGEMENT, range }

interface Made {
  readonly t: number[]
  readonly v: number[]
  readonly q?: number[]
}
/** Rows in blocks, as they are kept. */
const blocksOf = ({ t, v }: Made) =>
  Array.from({ length: Math.ceil(t.length / ROWS) }, (_, b) =>
    blockOf(t.slice(b * ROWS, (b + 1) * ROWS), v.slice(b * ROWS, (b + 1) * ROWS)),
  )
/** A log judged part by part. */
function byParts(log: Made, s = settings) {
  const blocks = blocksOf(log)
  const parts = partsOf(blocks, 40_000, SMALL)
  if (!parts) return null
  const judged = parts.map((p) => {
    const cut = <T>(all: readonly T[]) => all.slice(p.first * ROWS, p.last * ROWS)
    const own = { from: blocks[p.own]?.from ?? 0, to: blocks[p.end]?.from ?? Infinity }
    return judgePart({ t: cut(log.t), v: cut(log.v), q: log.q ? cut(log.q) : null }, own, s)
  })
  return { parts, findings: judgeParts(judged, s) }
}
/** Noise about a level, neighbours alike, one sample a second. */
function quiet(seed: number, n: number, of: (i: number) => number = () => 0, sd = 0.2): Made {
  const g = new Generator(seed)
  let a = 0
  const v = Array.from({ length: n }, (_, i) => {
    a = 0.6 * a + 0.8 * g.normal()
    return rounded(50 + sd * a + of(i), 0.001)
  })
  return { t: v.map((_, i) => T0 + i * 1000), v }
}
const N = 50_000
const SEAM = SMALL.own
const second = (f: LogFinding) => (f.from - T0) / 1000
const codes = (told: ReturnType<typeof byParts>) => told?.findings.map((f) => f.code)

describe('the parts of a log', () => {
  test('lie one behind the other, each with some of its neighbours', () => {
    const parts = partsOf(blocksOf(quiet(1, N)), 40_000, SMALL) ?? []
    expect(parts.map((p) => [p.own, p.end])).toEqual([
      [0, 8],
      [8, 16],
      [16, 24],
      [24, 32],
      [32, 40],
      [40, 49],
    ])
    expect(parts[1]).toEqual({ first: 6, own: 8, end: 16, last: 18 })
  })
  test('are cut where the clock rises for good', () => {
    const log = quiet(1, N)
    for (let i = 8000; i < N; i++) log.t[i] = (log.t[i] ?? 0) - 3_000_000
    // What comes after the clock went back by 3000 s is as old as what came before, up to row 11 000.
    expect(partsOf(blocksOf(log), 40_000, SMALL)?.map((p) => p.own)).toEqual([0, 11, 19, 27, 35, 43])
  })
  test('are none where the clock went back over more than can be judged at once', () => {
    const log = quiet(1, N)
    for (let i = 45_000; i < N; i++) log.t[i] = (log.t[i] ?? 0) - 45_000_000
    expect(partsOf(blocksOf(log), 40_000, SMALL)).toBeNull()
  })
})

test('clean logs are silent part by part', () => {
  const loud = Array.from(
    { length: 12 },
    (_, i) => byParts(quiet(500 + i, N))?.findings.map((f) => f.code) ?? [],
  )
  expect(loud.flat()).toEqual([])
})

/** Puts something into a log from a sample on. */
const withPart = (log: Made, from: number, count: number, of: (v: number, i: number) => number): Made => ({
  ...log,
  v: log.v.map((v, i) => (i >= from && i < from + count ? of(v, i) : v)),
})

describe('a fault is found once, with its place and size, wherever the seam is', () => {
  const places = [SEAM - 1500, SEAM - 100, SEAM - 10, SEAM, SEAM + 5, SEAM + 3000]
  test.each(places)('frozen for 200 samples from %d', (at) => {
    const log = quiet(3, N)
    const told = byParts(withPart(log, at, 200, () => log.v[at] ?? 0))
    expect(told?.findings).toMatchObject([{ code: 'FROZEN', evidence: { samples: 200 } }])
    expect(told?.findings.map(second)).toEqual([at])
  })
  test.each(places)('outside the range for 300 samples from %d', (at) => {
    const told = byParts(withPart(quiet(4, N), at, 300, (v, i) => v + 60 + (i - at === 250 ? 5 : 0)))
    const out = told?.findings.filter((f) => f.code === 'OUT_OF_RANGE') ?? []
    expect(out).toMatchObject([{ evidence: { samples: 300 } }])
    expect(out.map(second)).toEqual([at])
    expect(Number(out[0]?.evidence['farthest'])).toBeGreaterThan(113)
  })
  test.each(places)('nothing recorded for 60 s after %d', (at) => {
    const log = quiet(5, N)
    const told = byParts({ ...log, t: log.t.map((t, i) => (i > at ? t + 60_000 : t)) })
    expect(told?.findings).toMatchObject([{ code: 'GAP', evidence: { seconds: 61 } }])
    expect(told?.findings.map(second)).toEqual([at])
  })
  test.each(places)('another level from %d', (at) => {
    const told = byParts(quiet(6, N, (i) => (i >= at ? 1.5 : 0)))
    expect(codes(told)).toEqual(['STEP'])
    expect(Number(told?.findings[0]?.evidence['size'])).toBeCloseTo(1.5, 1)
    expect(Math.abs(second(told?.findings[0] as LogFinding) - at)).toBeLessThan(5)
  })
  test.each(places)('too weak a signal for 80 samples from %d', (at) => {
    const log = quiet(7, N)
    const q = log.v.map((_, i) => (i >= at && i < at + 80 ? 31 : 85))
    const told = byParts({ ...log, q })
    expect(told?.findings).toMatchObject([
      { code: 'SIGNAL_LOW', evidence: { samples: 80, lowest: 31, mean: 31 } },
    ])
  })
  test.each(places)('one value that stands out at %d', (at) => {
    const told = byParts(withPart(quiet(8, N), at, 1, (v) => v + 4))
    expect(codes(told)).toEqual(['SPIKE'])
    expect(told?.findings.map(second)).toEqual([at])
  })
  test.each(places)('samples that stand twice from %d', (at) => {
    const log = quiet(9, N)
    const twice = (xs: readonly number[]) => [
      ...xs.slice(0, at),
      ...xs.slice(at - 40, at).flatMap((x) => [x, x]),
      ...xs.slice(at),
    ]
    const doubled = {
      t: twice(log.t)
        .toSpliced(at - 40, 40)
        .map((t) => t),
      v: twice(log.v).toSpliced(at - 40, 40),
    }
    expect(byParts(doubled)?.findings).toMatchObject([
      { code: 'DUPLICATE', evidence: { samples: 40, conflicting: 0 } },
    ])
  })
  test.each(places)('the clock goes back by 500.3 s at %d', (at) => {
    const log = quiet(10, N)
    const told = byParts({ ...log, t: log.t.map((t, i) => (i >= at ? t - 500_300 : t)) })
    expect(codes(told)).toEqual(['BACKWARDS'])
    expect(told?.findings[0]?.evidence).toMatchObject({ back_ms: 499_300 })
  })
  test.each(places)('another unit from %d', (at) => {
    const told = byParts(
      withPart(quiet(11, N), at, N, (v) => v / 3.785411784),
      { ...settings, range: { lo: 0, hi: 1000 } },
    )
    expect(codes(told)).toEqual(['UNIT_CHANGED'])
    expect(Math.abs(second(told?.findings[0] as LogFinding) - at)).toBeLessThan(5)
  })
  test.each(places)('another scatter from %d', (at) => {
    const log = quiet(12, N)
    const told = byParts(withPart(log, at, N, (v) => rounded(50 + 4 * (v - 50), 0.001)))
    expect(codes(told)).toEqual(['NOISE_CHANGED'])
    expect(Number(told?.findings[0]?.evidence['ratio'])).toBeCloseTo(4, 0)
  })
})

describe('what goes on over many parts is told once', () => {
  test('a wave', () => {
    const told = byParts(quiet(13, N, (i) => 0.6 * Math.sin((2 * Math.PI * i) / 61.5)))
    expect(codes(told)).toEqual(['PERIODIC'])
    expect(Number(told?.findings[0]?.evidence['period_s'])).toBeCloseTo(61.5, 1)
    expect([told?.findings[0]?.from, told?.findings[0]?.to]).toEqual([T0, T0 + (N - 1) * 1000])
  })
  test('a wave too slow for any part, and no steps of it', () => {
    const told = byParts(quiet(14, N, (i) => 0.8 * Math.sin((2 * Math.PI * i) / 3500)))
    expect(codes(told)).toEqual(['PERIODIC'])
    expect(Math.abs(Number(told?.findings[0]?.evidence['period_s']) - 3500)).toBeLessThan(35)
  })
  test.each([20_000, 20_700, 21_500, 24_576])('a step of its own size in such a wave, from %d', (at) => {
    const told = byParts(quiet(21, N, (i) => 0.8 * Math.sin((2 * Math.PI * i) / 1500) + (i >= at ? 3 : 0)))
    expect(codes(told)).toEqual(['PERIODIC', 'STEP'])
    const step = told?.findings.find((f) => f.code === 'STEP') as LogFinding
    expect(Math.abs(second(step) - at)).toBeLessThan(5)
    expect(Math.abs(Number(step.evidence['size']) - 3)).toBeLessThan(0.3)
  })
  test('a drift that every part shows', () => {
    const told = byParts(quiet(15, N, (i) => (10 * i) / N))
    expect(codes(told)).toEqual(['DRIFT'])
    expect(Number(told?.findings[0]?.evidence['total'])).toBeCloseTo(10, 1)
  })
  test('a drift that only the whole shows', () => {
    const log = quiet(16, N, (i) => (0.5 * i) / N)
    const told = byParts(log)
    expect(codes(told)).toEqual(['DRIFT'])
    expect(Number(told?.findings[0]?.evidence['total'])).toBeCloseTo(0.5, 1)
  })
  test('a coarse display', () => {
    const log = quiet(17, N)
    const told = byParts({ ...log, v: log.v.map((v) => rounded(v, 0.5)) })
    expect(codes(told)).toEqual(['QUANTISED'])
  })
  test('a limit that nobody told, and how many samples stand at it', () => {
    const log = quiet(18, N)
    const v = log.v.map((x) => Math.min(x, 50.12))
    const told = byParts({ ...log, v })
    expect(codes(told)).toEqual(['AT_LIMIT'])
    expect(told?.findings[0]?.evidence).toMatchObject({
      limit: 50.12,
      known: false,
      samples: v.filter((x) => x === 50.12).length,
    })
  })
  test('the end of the range', () => {
    const told = byParts(withPart(quiet(19, N), 5000, 15_000, () => 100))
    const at = told?.findings.filter((f) => f.code === 'AT_LIMIT')
    expect(at).toMatchObject([{ evidence: { limit: 100, known: true, samples: 15_000 } }])
  })
})

test.each([1, 2, 3])(
  'an excursion far shorter than the blocks of the whole leaves no step where nothing happened: %d',
  (seed) => {
    const g = new Generator(seed)
    const [n, at, long] = [140_625, 15_625, 56]
    const v = Float64Array.from({ length: n }, (_, i) =>
      rounded(600 + 0.03 * g.normal() + (2 * i) / n + (i >= at && i < at + long ? -30 : 0), 0.001),
    )
    const t = v.map((_, i) => T0 + i * 64_000)
    const step = (i: number, size: number) => ({
      code: 'STEP' as const,
      from: t[i] ?? 0,
      to: t[i] ?? 0,
      evidence: { size },
      fromBefore: false,
      goesOn: false,
    })
    const seen = [step(at, -30), step(at + long, 30)]
    const part = { pieces: seen, slow: { t, v }, interval_ms: 1000, total: null, stable: null }
    const told = judgeParts([part], settings)
    expect(told.map((f) => f.code)).toEqual(['DRIFT', 'STEP', 'STEP'])
    expect(told.slice(1).map((f) => f.from)).toEqual(seen.map((f) => f.from))
  },
)

test('a log of one part is judged as it is at once', () => {
  const log = withPart(
    quiet(20, 9000, (i) => (i > 4000 ? 2 : 0)),
    6000,
    100,
    () => 52,
  )
  expect(byParts(log)?.findings).toEqual(judgeLog(log, settings))
})
