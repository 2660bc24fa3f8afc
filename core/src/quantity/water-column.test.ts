import { describe, expect, test } from 'vitest'
import { unitsLike } from './unit-search.ts'
import { findUnit } from './units.ts'
import { bareWater, WATERS, waterColumn } from './water-column.ts'

describe('a water column without its temperature', () => {
  test.each([
    ['inH2O', 'in'],
    ['in H₂O', 'in'],
    ['IN. W.C.', 'in'],
    ['inwg', 'in'],
    ['mmWC', 'mm'],
    ['mm ws', 'mm'],
    ['mH2O', 'm'],
    ['ft H2O', 'ft'],
    ['inH2O@4C', null],
    ['inH2O (60 °F)', null],
    ['in', null],
    ['inHg', null],
    ['wc', null],
  ])('%s', (typed, length) => expect(bareWater(typed)).toBe(length))
})

test('every length and convention is a unit, and 68 °F is 20 °C', () => {
  for (const length of ['mm', 'cm', 'm', 'in', 'ft'])
    for (const water of WATERS)
      expect(waterColumn(findUnit(`${length}H2O@${water}`)?.symbol ?? '')).toEqual({ length, water })
  expect(waterColumn('inH2O@68F')).toEqual({ length: 'in', water: '20C' })
  expect(waterColumn('mmHg')).toBeNull()
})

describe('the plant counts its water columns in one way', () => {
  test.each(WATERS)('%s: its columns alone are offered for a bare writing', (water) => {
    expect(unitsLike('in wc', null, water).map((u) => u.symbol)).toEqual([`inH2O@${water}`])
    expect(unitsLike('mmh2o', null, water)[0]?.symbol).toBe(`mmH2O@${water}`)
  })
  test('another one is found where its temperature is typed', () => {
    expect(unitsLike('inH2O@60F', null, '4C')[0]?.symbol).toBe('inH2O@60F')
    expect(unitsLike('inH2O 60', null, '4C')[0]?.symbol).toBe('inH2O@60F')
  })
  test('where the plant has not said it, all are offered', () => {
    const all = unitsLike('in wc', null).map((u) => waterColumn(u.symbol)?.water)
    expect(new Set(all)).toEqual(new Set(WATERS))
  })
  test('in the whole list the plant’s columns stand among the common ones, no other does', () => {
    const offered = unitsLike('', 'pressure', '60F')
      .map((u) => u.symbol)
      .slice(0, 20)
    expect(offered).toContain('mmH2O@60F')
    expect(offered).not.toContain('mmH2O@4C')
  })
})
