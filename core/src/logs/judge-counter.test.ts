import { describe, expect, test } from 'vitest'
import { judgeCounter, type StretchTotal } from './judge-counter.ts'

const TOTAL: StretchTotal = { forward: 1000, net: 990, U: 2, complete: true }
const judged = (counter: object, rateU: number | null = 1, total: object = {}) =>
  judgeCounter({ ...TOTAL, ...total }, { start: 0, end: 995, ...counter }, rateU, 'm³')

describe('a counter against the total of a log', () => {
  test.each<[string, object, number | null, boolean | null, string]>([
    // ±1 % of 990 is 9.9; with 2 of noise 10.1.
    ['within what both are known to', {}, 1, true, '0.503 % more'],
    ['further off', { end: 980 }, 1, false, 'do not agree'],
    ['its own uncertainty counts too', { end: 980, U: 20 }, 1, true, 'agree'],
    ['it rolls over', { start: 9_900, end: 895, modulus: 10_000 }, 1, true, 'went on by 995 m³'],
    ['it counts backwards with reverse flow', { end: 991, net: true }, 1, true, 'makes 990 m³'],
    ['nobody said how well the rate is known', {}, null, null, 'Not judged: nobody said'],
    ['it stood still', { end: 0 }, 1, null, 'did not move'],
  ])('%s', (_what, counter, rateU, agrees, says) => {
    const j = judged(counter, rateU)
    expect(j.says).toContain(says)
    expect(j.agrees).toBe(agrees)
  })
  test('a total with gaps is held against nothing', () => {
    expect(judged({}, 1, { complete: false })).toMatchObject({ agrees: null })
  })
})
