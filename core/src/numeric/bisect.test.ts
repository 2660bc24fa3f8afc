import fc from 'fast-check'
import { expect, test } from 'vitest'
import { tankOf } from '../tank/shape.ts'
import { bisect } from './bisect.ts'

test.each<[why: string, at: number, from: number, to: number, close: number]>([
  ['a level', 1.234567, 0, 12, 1e-10],
  ['below zero', -3.5, -10, 4, 1e-10],
  ['at the lower end', 0, 0, 1, 1e-12],
  ['at the upper end', 1, 0, 1, 1e-12],
  ['numbers so large that no such width exists', 3.3e29, 0, 1e30, 1e-10],
  ['the whole range of numbers', 1e300, -1.7e308, 1.7e308, 1e-10],
  ['the smallest numbers', 1e-320, 0, 1e-300, 0],
])('%s', (_why, at, from, to, close) => {
  const x = bisect((y) => y >= at, from, to, close)
  expect(Math.abs(x - at)).toBeLessThanOrEqual(Math.max(close, 1e-12 * Math.abs(at), 1e-322))
})
test('any point of any interval is found', () => {
  const n = fc.double({ noNaN: true, noDefaultInfinity: true })
  fc.assert(
    fc.property(n, n, n, (a, b, c) => {
      const [lo, at, hi] = [a, b, c].sort((x, y) => x - y) as [number, number, number]
      let asked = 0
      const x = bisect((y) => (asked++, y >= at), lo, hi, 0)
      expect(asked).toBeLessThanOrEqual(1100)
      expect(Math.abs(x - at)).toBeLessThanOrEqual(1e-12 * Math.max(Math.abs(lo), Math.abs(hi)) + 1e-320)
    }),
  )
})
test('a tank of 1e30 m answers, as a tank of 3 m does', () => {
  for (const size of [3, 1e30]) {
    const tank = tankOf({ kind: 'rectangular', length_m: size, width_m: 1, height_m: size })
    expect(tank.level_m(tank.full_m3 / 4)).toBeCloseTo(size / 4, -Math.log10(size))
  }
})
