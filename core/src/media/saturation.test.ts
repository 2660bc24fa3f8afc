import { describe, expect, test } from 'vitest'
import { fluidState } from './fluid.ts'
import { Gas } from './gas.ts'
import type { GasKey } from './gas-table.ts'
import { boilingPressure_kPa, condenses } from './saturation.ts'

describe('the boiling pressure', () => {
  /** Normal boiling points, handbook. */
  const rows: readonly [key: GasKey, T: number][] = [
    ['methane', 111.66],
    ['ethane', 184.57],
    ['propane', 231.04],
    ['n_butane', 272.66],
    ['isobutane', 261.4],
    ['n_pentane', 309.21],
    ['isopentane', 300.98],
    ['n_hexane', 341.87],
    ['n_heptane', 371.53],
    ['n_octane', 398.77],
    ['n_nonane', 423.91],
    ['n_decane', 447.27],
    ['water', 373.124],
  ]
  test.each(rows)('%s boils at %s K under one atmosphere', (key, T) => {
    expect(Math.abs((boilingPressure_kPa(key, T) ?? 0) / 101.325 - 1)).toBeLessThan(0.01)
  })
  test.each<[GasKey, number, number]>([
    ['propane', 20, 836],
    ['n_butane', 20, 207.6],
    ['carbon_dioxide', 20, 5729],
    ['carbon_dioxide', -20, 1970],
    ['ethane', 20, 3769],
    ['water', 50, 12.352],
  ])('%s at %s °C: %s kPa', (key, t, kPa) => {
    expect(Math.abs((boilingPressure_kPa(key, t + 273.15) ?? 0) / kPa - 1)).toBeLessThan(0.006)
  })
  test('it rises with temperature and ends at the critical point', () => {
    for (const [key, at] of rows) {
      let before = 0
      for (let T = at; ; T += 5) {
        const p = boilingPressure_kPa(key, T)
        if (p === null) break
        expect(p).toBeGreaterThan(before)
        before = p
      }
      expect(before).toBeGreaterThan(0)
    }
    expect(boilingPressure_kPa('nitrogen', 293)).toBeNull()
    expect(boilingPressure_kPa('carbon_dioxide', 310)).toBeNull()
  })
})

describe('a gas that is none', () => {
  test.each<[string, GasKey, number, number, RegExp]>([
    ['propane', 'propane', 20, 900, /propane boils at 83\d(\.\d)? kPa absolute; at 900 kPa it is a liquid/],
    ['n-butane', 'n_butane', 20, 500, /n-butane boils at 20\d(\.\d)? kPa absolute; at 500 kPa/],
    ['carbon dioxide', 'carbon_dioxide', 20, 6000, /carbon dioxide boils at 57\d\d kPa/],
    ['steam', 'water', 50, 14, /water boils at 12\.3\d? ?kPa/],
  ])('%s below its boiling line is refused with the boiling pressure', (_, key, t, p, says) => {
    const s = fluidState({ kind: 'gas', composition: { [key]: 1 }, viscosityAs: 'methane' }, t, p)
    expect(s.kind).toBe('refused')
    expect(s.kind === 'refused' && s.says).toMatch(says)
  })
  test.each<[GasKey, number, number]>([
    ['propane', 20, 800],
    ['n_butane', 20, 190],
    ['carbon_dioxide', 20, 5500],
    ['water', 50, 12],
    ['carbon_dioxide', 40, 8000],
  ])('%s at %s °C and %s kPa is a gas', (key, t, p) => {
    expect(condenses({ [key]: 1 }, t + 273.15, p)).toBeNull()
    expect(new Gas({ [key]: 1 }).state(t + 273.15, p)).not.toBeNull()
  })
  test('a mixture: sure at low pressure, a warning where the other gases carry it, nothing where it is dry', () => {
    const wet = { nitrogen: 0.8, n_pentane: 0.2 }
    expect(condenses(wet, 293.15, 500)).toMatchObject({ sure: true })
    expect(condenses({ methane: 0.9, propane: 0.1 }, 273.15, 7000)).toMatchObject({ sure: false })
    expect(condenses({ methane: 0.95, propane: 0.05 }, 293.15, 7000)).toBeNull()
    const s = fluidState(
      { kind: 'gas', composition: { methane: 0.9, propane: 0.1 }, viscosityAs: 'methane' },
      0,
      7000,
    )
    expect(s.kind === 'state' && s.warnings.join(' ')).toMatch(/a part of it may be liquid/)
  })
})

test('the sound speed of water does not jump where two equations meet', () => {
  const c = (t: number) => {
    const s = fluidState({ kind: 'water' }, t, 1000)
    return s.kind === 'state' ? s.soundSpeed_m_s : NaN
  }
  for (let t = 95; t < 160; t += 0.5) expect(Math.abs(c(t + 0.5) / c(t) - 1)).toBeLessThan(0.0012)
  expect(Math.abs(c(100.01) - c(99.99))).toBeLessThan(0.05)
})
