import fc from 'fast-check'
import { expect, test } from 'vitest'
import { powerSpectrum, twoCorrelations, twoSpectra } from './fft.ts'

test('the spectrum of any count is that of the plain sum', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -100, max: 100 }), { minLength: 1, maxLength: 130 }), (x) => {
      const n = x.length
      const plain = Array.from({ length: Math.floor(n / 2) + 1 }, (_, k) => {
        let [re, im] = [0, 0]
        for (const [i, v] of x.entries()) {
          re += v * Math.cos((2 * Math.PI * k * i) / n)
          im -= v * Math.sin((2 * Math.PI * k * i) / n)
        }
        return re * re + im * im
      })
      const told = powerSpectrum(Float64Array.from(x))
      expect([...told]).toEqual(plain.map((p) => expect.closeTo(p, 4) as number))
    }),
    { numRuns: 60 },
  )
})

test('two correlations at once are the plain sums', () => {
  const whole = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 16 })
  fc.assert(
    fc.property(whole, whole, whole, whole, (x, y, u, v) => {
      const size = 32
      const plain = (p: readonly number[], q: readonly number[]) =>
        Array.from({ length: size }, (_, k) =>
          q.reduce((sum, b, i) => sum + b * (p[k < size / 2 ? i + k : i + k - size] ?? 0), 0),
        )
      const [ofX, ofY] = twoSpectra(Float64Array.from(x), Float64Array.from(y), size)
      const [ofU, ofV] = twoSpectra(Float64Array.from(u), Float64Array.from(v), size)
      const told = twoCorrelations([ofX, ofY], [ofU, ofV])
      const near = (all: readonly number[]) => all.map((n) => expect.closeTo(n, 6) as number)
      expect(told.map((r) => [...r])).toEqual([near(plain(x, y)), near(plain(u, v))])
    }),
    { numRuns: 60 },
  )
})
