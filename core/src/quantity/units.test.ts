import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { convert, convertRangeEnd, findUnit, printedUnit, UNITS } from './units.ts'

const value = (v: number, from: string, to: string, baro?: number) => {
  const r = convert(v, from, to, baro)
  if (r.kind === 'refused') throw new Error(r.says)
  return r.value
}

describe('worked examples', () => {
  const rows: readonly [why: string, v: number, from: string, to: string, gives: number, digits: number][] = [
    ['conventional water column', 35, 'inH2O@conv', 'kPa', 8.718112, 6],
    ['water at 4 °C', 35, 'inH2O@4C', 'kPa', 8.717894, 6],
    ['water at 60 °F', 35, 'inH2O@60F', 'kPa', 8.709542, 6],
    ['water at 68 °F', 35, 'inH2O@68F', 'kPa', 8.70248, 6],
    ['US gallons', 250, 'USgal/min', 'm3/h', 56.781177, 6],
    ['US gallons to litres', 250, 'USgal/min', 'L/s', 15.77255, 5],
    ['US to imperial gallons', 250, 'USgal/min', 'impgal/min', 208.16855, 5],
    ['standard to normal gas', 120, 'scf/min', 'Nm3/h', 192.8961, 5],
    ['standard at 60 °F to 15 °C', 120, 'scf/min', 'Sm3/h', 203.48897, 5],
    ['a temperature point', 90, 'degF', 'degC', 32.2222, 4],
    ['a temperature difference', 90, 'ddegF', 'ddegC', 50, 12],
    ['freezing point lands on round', 32, 'degF', 'degC', 0, 12],
  ]
  test.each(rows)('%s: %d %s is %d %s', (_why, v, from, to, gives, digits) => {
    expect(value(v, from, to)).toBeCloseTo(gives, digits)
  })
  test('gauge to absolute takes the barometer that was given', () => {
    expect(value(6.2, 'bar(g)', 'kPa(a)', 99_100)).toBeCloseTo(719.1, 4)
    expect(value(6.2, 'bar(g)', 'psi(a)', 99_100)).toBeCloseTo(104.29664, 5)
  })
})

describe('refusals', () => {
  test('a flow is not a pressure', () => {
    expect(convert(1, 'm3/h', 'bar')).toMatchObject({ kind: 'refused', code: 'DIMENSION_MISMATCH' })
  })
  test('a standard volume is no actual volume', () => {
    expect(convert(1, 'Nm3/h', 'm3/h')).toMatchObject({ kind: 'refused', code: 'DIMENSION_MISMATCH' })
  })
  test('a plain pressure has no zero, so it is not gauge; as a range end it is read as gauge', () => {
    expect(convert(600, 'kPa', 'bar(g)').kind).toBe('refused')
    expect(convertRangeEnd(600, 'kPa', 'bar(g)')).toMatchObject({ value: 6 })
  })
})

test('every unit comes back from SI to within 1e-12', () => {
  fc.assert(
    fc.property(fc.constantFrom(...UNITS), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (u, v) => {
      const base = UNITS.find((x) => x.dimension === u.dimension && x.factor === 1 && x.offset === 0)
      if (!base) return
      const back = value(value(v, u.symbol, base.symbol), base.symbol, u.symbol)
      // An offset unit cannot do better than the last bit of its offset.
      const scale = Math.max(Math.abs(v), Math.abs(u.offset / u.factor), 1e-300)
      expect(Math.abs(back - v) / scale).toBeLessThan(1e-12)
    }),
  )
})

describe('spellings from real lists', () => {
  const rows: readonly [typed: string, symbol: string | null][] = [
    ['m³/h', 'm3/h'],
    ['bar g', 'bar(g)'],
    ['barg', 'bar(g)'],
    ['psi g', 'psi(g)'],
    ['°C', 'degC'],
    ['Sm³/h', 'Sm3/h'],
    ['µS/cm', 'uS/cm'],
    ['KG/H', 'kg/h'],
    ['kPa', 'kPa'],
    ['stones', null],
    ['inH2O', null],
    ['mmH2O', null],
    ['', null],
  ]
  test.each(rows)('“%s” is %s', (typed, symbol) => {
    expect(findUnit(typed)?.symbol ?? null).toBe(symbol)
  })
  test('what only its case would decide is not guessed', () => {
    expect(findUnit('mS')?.symbol).toBe('mS')
    expect(findUnit('mpa.s')?.symbol).toBe('mPa.s')
    expect(findUnit('ML')?.symbol).toBe('ML')
    expect(findUnit('Ml')).toBeNull()
  })
})

test('units are printed as people write them', () => {
  expect(['m3/h', 'bar(g)', 'degC', 'inH2O@conv', 'uS/cm'].map(printedUnit)).toEqual([
    'm³/h',
    'bar g',
    '°C',
    'inH2O (conventional)',
    'μS/cm',
  ])
})

test.each(['mmH2O (4 °C)', 'inH2O (60 °F)', 'inH2O (68 °F)', 'mmH2O (conventional)'])(
  '%s is taken as it is proposed',
  (text) => {
    expect(findUnit(text)?.dimension).toBe('pressure')
  },
)
