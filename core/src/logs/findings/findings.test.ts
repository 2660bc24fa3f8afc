import { describe, expect, test } from 'vitest'
import { rounded, series, T0 } from '../test/series.ts'
import { FEWEST_JUDGED, USUAL_JUDGEMENT, type JudgeSettings } from './finding.ts'
import { judgeLog } from './judge.ts'
import type { Channel } from '../samples.ts'

interface Log {
  t: number[]
  v: (number | null)[]
  q?: number[]
}
const base = (o: Partial<Parameters<typeof series>[0]> = {}): Log =>
  series({ n: 600, level: 50, sd: 0.2, phi: 0, g: 0.01, ...o })
const changed = (log: Log, f: (v: number, i: number) => number, g = 0): Log => ({
  t: log.t,
  v: log.v.map((v, i) => (g > 0 ? rounded(f(v ?? 0, i), g) : f(v ?? 0, i))),
})
const judged = (log: Channel, s: Partial<JudgeSettings> = {}) =>
  judgeLog(log, { ...USUAL_JUDGEMENT, ...s }).map((f) => ({
    code: f.code,
    from: (f.from - T0) / 1000,
    to: (f.to - T0) / 1000,
    evidence: f.evidence,
  }))
const near = (x: number, digits = 3) => expect.closeTo(x, digits) as number

describe('a log without a fault is silent', () => {
  test.each([0, 0.7])('neighbours alike by %d', (phi) => {
    expect(judged(base({ phi }))).toEqual([])
  })
})

describe('worked logs with one fault', () => {
  const clean = base()
  const rows: readonly [string, Log, object[], Partial<JudgeSettings>?][] = [
    [
      'samples 200 to 229 missing',
      { t: clean.t.filter((_, i) => i < 200 || i > 229), v: clean.v.filter((_, i) => i < 200 || i > 229) },
      [{ code: 'GAP', from: 199, to: 230, evidence: { seconds: 31, missing: 30 } }],
    ],
    [
      'one value out, fifty the same',
      changed(clean, (v, i) => (i === 120 ? v + 4 : i >= 400 && i < 450 ? (clean.v[400] ?? 0) : v)),
      [
        { code: 'SPIKE', from: 120, to: 120, evidence: { size: near(4.19), samples: 1 } },
        { code: 'FROZEN', from: 400, to: 449, evidence: { samples: 50, value: 49.85, limit: 30 } },
      ],
    ],
    [
      'a step',
      base({ phi: 0.3, wave: (i) => (i < 250 ? 0 : 1.5) }),
      [{ code: 'STEP', from: 250, to: 250, evidence: { size: near(1.46913, 5) } }],
    ],
    [
      'a drift',
      base({ phi: 0.3, wave: (i) => (3 * i) / 600 }),
      // 599 steps of 3/600 in all: 2.995 and the noise.
      [
        {
          code: 'DRIFT',
          from: 0,
          to: 599,
          evidence: { total: near(2.943402, 5), perHour: near(17.6899, 3) },
        },
      ],
    ],
    [
      'a wave',
      base({ wave: (i) => 0.6 * Math.sin((2 * Math.PI * i) / 24.5) }),
      [
        {
          code: 'PERIODIC',
          from: 0,
          to: 599,
          evidence: { period_s: near(24.5045, 4), amplitude: near(0.5916793), ratio: near(627.7497, 3) },
        },
      ],
    ],
    [
      'more noise',
      base({ sdAt: (i) => (i < 350 ? 0.2 : 0.7) }),
      [
        // 0.2 became 0.7 ten samples later than the edge of the block.
        {
          code: 'NOISE_CHANGED',
          from: 341,
          to: 599,
          evidence: { ratio: near(3.5, 0), before: near(0.19, 2), after: near(0.667, 2) },
        },
      ],
    ],
    [
      'another unit',
      changed(clean, (v, i) => (i < 280 ? v : v * 3.785411784), 1e-4),
      [
        {
          code: 'UNIT_CHANGED',
          from: 280,
          to: 280,
          evidence: { factor: 3.785411784, offset: 0, ratio: near(3.781629, 5) },
        },
      ],
    ],
    [
      'a coarse resolution',
      base({ g: 0.5 }),
      [{ code: 'QUANTISED', from: 0, to: 599, evidence: { step: 0.5, zeroShare: near(0.6777963, 6) } }],
    ],
    [
      'cut off at a limit nobody told',
      changed(clean, (v) => Math.min(v, 50.12)),
      [expect.objectContaining({ code: 'AT_LIMIT', evidence: { limit: 50.12, samples: 163, known: false } })],
    ],
    [
      'above the range',
      changed(clean, (v, i) => (i >= 300 && i < 340 ? v + 3 : v), 0.01),
      [
        { code: 'OUT_OF_RANGE', from: 300, to: 339, evidence: { samples: 40, farthest: near(53.3) } },
        { code: 'STEP', from: 300, to: 300, evidence: { size: near(2.929775, 4) } },
        { code: 'STEP', from: 340, to: 340, evidence: { size: near(-2.954086, 4) } },
      ],
      { range: { lo: 0, hi: 52 } },
    ],
    [
      'a weak signal',
      { ...clean, q: clean.t.map((_, i) => (i >= 150 && i < 200 ? 31 : 85)) },
      [{ code: 'SIGNAL_LOW', from: 150, to: 199, evidence: { samples: 50, lowest: 31, mean: 31 } }],
    ],
    [
      'a clock put back',
      { t: clean.t.map((t, i) => (i < 300 ? t : t - 60_500)), v: clean.v },
      [{ code: 'BACKWARDS', from: 239.5, to: 299, evidence: { samples: 60, back_ms: 59_500 } }],
    ],
  ]
  test.each(rows)('%s', (_what, log, expected, settings) => {
    expect(judged(log, settings)).toEqual(expected)
  })
})

describe('what computing leaves is no movement', () => {
  test.each<[string, (i: number) => number]>([
    ['a wave without any noise', (i) => 50 + 0.2 * Math.sin(i / 3)],
    ['a wave on a high level', (i) => 1e6 + Math.sin(i / 7)],
  ])('%s is a wave and nothing else', (_what, f) => {
    const t = Array.from({ length: 8000 }, (_, i) => T0 + i * 1000)
    expect(judged({ t, v: t.map((_, i) => f(i)) }).map((x) => x.code)).toEqual(['PERIODIC'])
  })
  test('a level alone is frozen, a line alone drifts', () => {
    const t = Array.from({ length: 500 }, (_, i) => T0 + i * 1000)
    expect(judged({ t, v: t.map(() => 5) }).map((x) => x.code)).toEqual(['FROZEN'])
    expect(judged({ t, v: t.map((_, i) => 5 + i * 0.01) }).map((x) => x.code)).toEqual(['DRIFT'])
  })
})

test('too few samples are told by their times alone: whoever calls such a log good has to count them', () => {
  const few = (n: number): Log => ({
    t: base().t.slice(0, n),
    v: base()
      .v.slice(0, n)
      .map((v, i) => (i === 30 ? (v ?? 0) + 50 : v)),
  })
  expect(judged(few(FEWEST_JUDGED - 1))).toEqual([])
  expect(judged(few(FEWEST_JUDGED)).map((f) => f.code)).toEqual(['SPIKE'])
})
