import { describe, expect, test } from 'vitest'
import { flowSlip } from './flow-slips.ts'

describe('a full flow in a unit that it was not typed in', () => {
  test.each<[string, number, number, 'liquid' | 'gas', string | null]>([
    ['100 l/s typed for m³/h in a 20 inch pipe', 0.14, 100, 'liquid', null],
    ['30 l/s typed for m³/h in a 16 inch pipe', 0.04 * 1.7, 30, 'liquid', null],
    ['12 l/s typed for m³/h in a 12 inch pipe', 0.046, 12, 'liquid', null],
    ['3000 l/min typed for m³/h in a 6 inch pipe', 46, 3000, 'liquid', 'l/min'],
    ['2400 m³/d typed for m³/h in a 6 inch pipe', 36, 2400, 'liquid', 'm³/d'],
    ['600 US gal/min typed for m³/h in a 4 inch pipe', 20, 600, 'liquid', 'US gal/min'],
    ['0.05 m³/s typed for m³/h', 0.0005, 0.05, 'liquid', 'm³/s'],
  ])('%s', (_, v, flow, fluid, unit) => {
    const told = flowSlip(v, flow, fluid)
    expect(told === null || told.likely.length > 0).toBe(true)
    expect(unit === null || (told?.likely.map((l) => l.unit).includes(unit) ?? false)).toBe(true)
  })
  test('a usual velocity is never doubted', () => {
    for (let v = 0.06; v < 9.9; v *= 1.2) expect(flowSlip(v, 100, 'liquid')).toBeNull()
    for (let v = 0.4; v < 39; v *= 1.2) expect(flowSlip(v, 100, 'gas')).toBeNull()
  })
})
