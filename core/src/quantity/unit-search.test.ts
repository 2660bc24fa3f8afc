import { describe, expect, test } from 'vitest'
import { unitsLike } from './unit-search.ts'
import { findUnit, printedUnit, UNITS } from './units.ts'

const first = (query: string) => unitsLike(query, null)[0]?.symbol

describe('every usual way of writing finds its unit', () => {
  test.each([
    ['m3/h', 'm3/h'],
    ['m³/h', 'm3/h'],
    ['cmh', 'm3/h'],
    ['degC', 'degC'],
    ['°c', 'degC'],
    ['celsius', 'degC'],
    ['inH2O', 'inH2O@4C'],
    ['in H2O', 'inH2O@4C'],
    ['in wc', 'inH2O@4C'],
    ['inwg', 'inH2O@4C'],
    ['mmh2o', 'mmH2O@4C'],
    ['mm wc', 'mmH2O@4C'],
    ['l/s', 'L/s'],
    ['lps', 'L/s'],
    ['kg/cm2', 'kgf/cm2(g)'],
    ['kg/cm²', 'kgf/cm2(g)'],
    ['barg', 'bar(g)'],
    ['bar', 'bar(g)'],
    ['psig', 'psi(g)'],
    ['gpm', 'USgal/min'],
    ['mgd', 'MUSgal/d'],
    ['scfm', 'scf/min'],
    ['rpm', '1/min'],
    ['us/cm', 'uS/cm'],
    ['µS/cm', 'uS/cm'],
    ['percent', '%'],
  ])('%s', (typed, symbol) => expect(first(typed)).toBe(symbol))
})

describe('the loop’s own kind', () => {
  test('only units of it are offered, the common ones first', () => {
    const offered = unitsLike('', 'volume_flow')
    expect(offered.slice(0, 3).map((u) => u.symbol)).toEqual(['m3/h', 'L/s', 'L/min'])
    expect(offered.every((u) => u.dimension === 'volume_flow')).toBe(true)
  })
  test('gauge, absolute and difference are one kind', () => {
    expect(new Set(unitsLike('kpa', 'pressure_gauge').map((u) => u.symbol))).toEqual(
      new Set(['kPa(g)', 'kPa(a)', 'kPa']),
    )
  })
  test('what no unit of the kind is called may be of another', () => {
    expect(unitsLike('m3/h', 'pressure_gauge')[0]?.symbol).toBe('m3/h')
  })
  test('nonsense finds nothing', () => expect(unitsLike('furlong', null)).toEqual([]))
})

test('whatever is printed can be typed back', () => {
  const own = UNITS.filter((u) => u.dimension !== 'temperature_difference')
  expect(
    own.filter((u) => findUnit(printedUnit(u.symbol))?.symbol !== u.symbol).map((u) => u.symbol),
  ).toEqual([])
})
test('no printed unit shows a program’s sign', () => {
  expect(UNITS.map((u) => printedUnit(u.symbol)).filter((p) => /[@_]|\(g\)|deg[CF]/.test(p))).toEqual([])
})
