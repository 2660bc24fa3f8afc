import fc from 'fast-check'
import { expect, test } from 'vitest'
import { powerSpectrum } from './fft.ts'

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
