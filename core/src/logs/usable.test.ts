import { describe, expect, test } from 'vitest'
import { USUAL_JUDGEMENT } from './findings/finding.ts'
import { rounded, series, sumOfTwelve } from './test/series.ts'
import { usableToCompare, withoutWeak } from './usable.ts'

const base = (wave?: (i: number) => number) =>
  series({ n: 600, level: 50, sd: 0.2, phi: 0, g: 0.01, z: sumOfTwelve(20_317), ...(wave ? { wave } : {}) })
const settings = { ...USUAL_JUDGEMENT, range: { lo: 0, hi: 60 } }
const held = (v: readonly number[], q: number[] | null = null) =>
  usableToCompare({ t: base().t, v, q }, settings)
const kept = (v: readonly number[], q: number[] | null = null) => {
  const told = held(v, q)
  if ('says' in told) throw new Error(told.says)
  return { ...told, values: Array.from(told.channel.v).filter((x) => x !== null).length }
}

describe('what of a log can be held against another one', () => {
  test('all of a sound one', () => {
    expect(kept(base().v)).toMatchObject({ values: 600, leftOut: [], step: 0 })
  })
  test('not what stood still without its own noise', () => {
    const v = base().v.map((x, i) => (i >= 400 && i < 500 ? 49.85 : x))
    expect(kept(v)).toMatchObject({ values: 500, leftOut: [{ code: 'FROZEN' }] })
  })
  test('not what stands at the end of the range', () => {
    const v = base().v.map((x, i) => (i >= 100 && i < 160 ? 60 : x))
    const told = kept(v)
    expect(told.values).toBe(540)
    expect(told.leftOut.map((f) => f.code)).toContain('AT_LIMIT')
  })
  test('not what was measured with too weak a signal', () => {
    const q = base().v.map((_, i) => (i >= 150 && i < 200 ? 31 : 85))
    expect(kept(base().v, q)).toMatchObject({ values: 550, leftOut: [{ code: 'SIGNAL_LOW' }] })
  })
  test.each([
    ['a change of unit', base().v.map((x, i) => (i < 280 ? x : rounded(3.785411784 * x, 1e-4))), /unit/],
    ['nothing but the end of the range', base().v.map(() => 60), /measures nothing/],
    ['held for ever', base().v.map(() => 50.1), /measures nothing/],
    ['cut off by nobody knows what', base().v.map((x) => Math.min(x, 50.12)), /cut off/],
  ])('none of it: %s', (_, v, says) => {
    expect(held(v)).toMatchObject({ says: expect.stringMatching(says) as string })
  })
  test('a coarse display tells its step', () => {
    expect(kept(base().v.map((x) => rounded(x, 0.5))).step).toBeCloseTo(0.5, 9)
  })
})

test.each([
  ['no quality is told', null, 0],
  ['all strong', [90, 50, 70], 0],
  ['one below the limit', [90, 49.9, 70], 1],
])('values with a weak signal: %s', (_, q, weak) => {
  const told = withoutWeak({ t: [0, 1, 2], v: [1, 2, null], q }, 50)
  expect(told.weak).toBe(weak)
  expect(told.channel.v[1]).toBe(weak === 1 ? null : 2)
})
