import fc from 'fast-check'
import { expect, test } from 'vitest'
import { rounded } from './view.ts'

test.each([
  [0, 0],
  [-0.3, -0.3],
  [123.456_789_1, 123.4568],
  [-1_234_567.89, -1_234_568],
  [98_765_432_100, 98_765_430_000],
  [9.999_999_96, 10],
  [1e-30, 1e-30],
])('%d is sent as %d', (x, sent) => {
  expect(rounded(x)).toBe(sent)
})
test('any number is sent as its seven digits say it, and no longer', () => {
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e15, max: 1e15 }), (x) => {
      fc.pre(x !== 0)
      const [told, wanted] = [rounded(x), Number(x.toPrecision(7))]
      // Half a digit may fall either way.
      expect(Math.abs(told - wanted)).toBeLessThanOrEqual(Math.abs(x) * 1.000_001e-6)
      expect(Math.abs(told - x)).toBeLessThanOrEqual(Math.abs(x) * 5.000_001e-7)
      expect(Number(told.toPrecision(8))).toBe(told)
    }),
    { seed: 20_317, numRuns: 2000 },
  )
})
