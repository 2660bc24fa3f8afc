import { describe, expect, test } from 'vitest'
import { Generator } from '../../statistics/generator.ts'
import { USUAL_JUDGEMENT, type LogFinding, type LogFindingCode } from '../findings/finding.ts'
import { judgeLog } from '../findings/judge.ts'
import { statisticsOf } from '../statistics.ts'
import { beforeAfter, type Side } from './before-after.ts'

const side = (more: Partial<Side> = {}): Side => ({
  ...{ n: 3600, mean: 100, uMean: 0.03, noise: 0.5, slope: 0.01, uSlope: 0.05, lasts_s: 3600 },
  findings: [],
  ...more,
})

const has = (code: LogFindingCode, evidence: Record<string, number> = {}): { findings: LogFinding[] } => ({
  findings: [{ code, from: 0, to: 1, evidence }],
})

describe('before against after, by what both amount to', () => {
  test.each<[what: string, before: Partial<Side>, after: Partial<Side>, verdict: string, says: RegExp]>([
    // U = 2 · √(0.03² + 0.04²) = 0.1
    ['just inside', {}, { mean: 100.099, uMean: 0.04 }, 'same', /No difference .* \+0\.099 ± 0\.1 m/],
    ['just outside', {}, { mean: 99.899, uMean: 0.04 }, 'moved', /moved by −0\.101 ± 0\.1 m/],
    ['too few', {}, { n: 63 }, 'notJudged', /63 samples/],
    // 3 an hour over an hour
    ['on its way before', { slope: 3, uSlope: 0.1 }, { mean: 102 }, 'notJudged', /before it, by \+3 m/],
    ['on its way after', {}, { slope: -3, uSlope: 0.1, mean: 98.5 }, 'notJudged', /after it, by −3 m/],
    ['a slope within its own uncertainty', { slope: 3, uSlope: 1.6 }, {}, 'same', /No difference/],
    ['a small way beside a large step', { slope: 1, uSlope: 0.1 }, { mean: 140 }, 'moved', /\+40/],
    ['louder', {}, { noise: 1 }, 'same', /noise is 2 times/],
    ['calmer', {}, { noise: 0.2 }, 'same', /down to 40 %/],
    ['as loud', {}, { noise: 0.7 }, 'same', /^No difference[^N]*$/],
    ['frozen', has('FROZEN', { value: 50, samples: 900 }), {}, 'notJudged', /before it .* 50 m³\/h for 900 /],
    ['at a limit', {}, has('AT_LIMIT', { limit: 60, samples: 80 }), 'notJudged', /after it 80 .* 60 m³\/h/],
    ['without any scatter', {}, { noise: 0, uMean: 0 }, 'notJudged', /after it nothing scatters/],
    ['too long to be judged', {}, { findings: null }, 'notJudged', /after it is too long/],
    // 0.03 and 0.06/√12 each side: U = 2 · √(2 · 0.0003 + 2 · 0.0009)
    [
      'a coarse display',
      has('QUANTISED', { step: 0.06 }),
      has('QUANTISED', { step: 0.06 }),
      'same',
      /± 0\.098/,
    ],
    ['coarse: no noise', has('QUANTISED', { step: 0.01 }), { noise: 9 }, 'same', /noise is not told/],
    ['its level changed', has('STEP', { size: -4 }), { mean: 101 }, 'notJudged', /before it .* −4 m³\/h/],
    ['a small step', has('STEP', { size: 0.4 }), { mean: 101 }, 'moved', /\+1 ±/],
  ])('%s', (_, before, after, verdict, says) => {
    const r = beforeAfter(side(before), side(after), [], ' m³/h')
    expect(r.verdict).toBe(verdict)
    expect(r.says.join(' ')).toMatch(says)
  })
  test.each<[across: LogFinding[] | null, says: RegExp]>([
    [has('UNIT_CHANGED').findings, /the unit was changed/],
    [null, /too long/],
  ])('what both have together: %o', (across, says) => {
    const r = beforeAfter(side(), side({ mean: 378 }), across, '')
    expect(r.verdict).toBe('notJudged')
    expect(r.says.join(' ')).toMatch(says)
  })
})

/** A channel whose neighbours are alike, with a step in it. */
function sides(seed: number, phi: number, step: number): [Side, Side] {
  const g = new Generator(seed)
  let a = 0
  const made = [0, step].map((up) => {
    const n = 500
    const v = Float64Array.from({ length: n }, () => {
      a = phi * a + Math.sqrt(1 - phi * phi) * g.normal()
      return 50 + up + a
    })
    const channel = { t: Float64Array.from({ length: n }, (_, i) => 1000 * i), v }
    const s = statisticsOf(channel)
    if (!s) throw new Error('no samples')
    return { ...s, lasts_s: n, findings: judgeLog(channel, USUAL_JUDGEMENT) }
  })
  const [before, after] = made
  if (!before || !after) throw new Error('no sides')
  return [before, after]
}

describe('before against after, on series whose answer is known', () => {
  const rate = (phi: number, step: number) => {
    const all = Array.from({ length: 40 }, (_, i) => beforeAfter(...sides(7000 + i, phi, step), [], ''))
    return all.filter((r) => r.verdict === 'moved').length / all.length
  }
  test.each([
    ['white noise, nothing moved', 0, 0, 0, 0.15],
    // Neighbours that are alike would make a difference of nothing, were they taken as independent.
    ['slow noise, nothing moved', 0.9, 0, 0, 0.15],
    ['white noise, half of its scatter', 0, 0.5, 0.95, 1],
    ['slow noise, twice its scatter', 0.9, 2, 0.8, 1],
  ])('%s', (_, phi, step, least, most) => {
    const told = rate(phi, step)
    expect(told).toBeGreaterThanOrEqual(least)
    expect(told).toBeLessThanOrEqual(most)
  })
})

describe('before against after, on series that measure nothing', () => {
  const sideOfValues = (v: number[]): Side => {
    const channel = { t: v.map((_, i) => 1000 * i), v }
    const s = statisticsOf(channel)
    if (!s) throw new Error('no samples')
    return { ...s, lasts_s: v.length, findings: judgeLog(channel, USUAL_JUDGEMENT) }
  }
  const g = new Generator(31)
  const live = sideOfValues(Array.from({ length: 400 }, () => 50 + 0.2 * g.normal()))
  const held = (value: number) => sideOfValues(Array.from({ length: 400 }, () => value))
  const shut = sideOfValues(Array.from({ length: 400 }, () => Math.min(50.1, 50 + 0.2 * g.normal())))
  test.each([
    ['two values held for ever, a hundredth apart', held(50), held(50.01), /before it the value stood at 50/],
    ['alive, then held', live, held(50), /after it the value stood at 50/],
    ['held, then alive', held(50.2), live, /before it the value stood/],
    ['cut off at a level', live, shut, /after it \d+ samples stand at 50\.1/],
  ])('%s', (_, before, after, says) => {
    const r = beforeAfter(before, after, [], '')
    expect(r.verdict).toBe('notJudged')
    expect(r.says.join(' ')).toMatch(says)
  })
})
