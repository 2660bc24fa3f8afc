import { describe, expect, test } from 'vitest'
import { inUnits, unitChoices } from './sheet-units.ts'

const lines = [
  { says: 'Probe length', value: '4978.4 mm' },
  { says: 'Pressure', value: '101.325 kPa' },
  { says: 'Temperature', value: '-40 °C' },
  { says: 'Flow', value: '36 m³/h' },
  { says: 'Full', value: '2400 kg/h' },
  { says: 'Fluid', value: 'water, 24 °C' },
  { says: 'Traverses', value: '2' },
  { says: 'Factor', value: '31.842 mm', exact: true },
]
const said = (chosen: Record<string, string>) => inUnits(lines, chosen).map((l) => l.value)

describe('units of a settings sheet', () => {
  test('those that a device may ask for otherwise are offered, once each', () => {
    expect(unitChoices(lines).map((c) => c.unit)).toEqual(['mm', 'kPa', 'degC', 'm3/h', 'kg/h'])
    expect(unitChoices(lines)[0]?.others).toEqual(['cm', 'm', 'in', 'ft'])
  })
  test.each<[string, Record<string, string>, number, string]>([
    ['what was typed in inches comes back', { mm: 'in' }, 0, '196 in'],
    ['feet', { mm: 'ft' }, 0, '16.3333 ft'],
    ['psi', { kPa: 'psi' }, 1, '14.6959 psi'],
    ['water columns keep their temperature', { kPa: 'inH2O@60F' }, 1, '407.183 inH2O (60 °F)'],
    ['a temperature, not a difference', { degC: 'degF' }, 2, '-40 °F'],
    ['litres a minute', { 'm3/h': 'L/min' }, 3, '600 L/min'],
    ['pounds', { 'kg/h': 'lb/min' }, 4, '88.1849 lb/min'],
    ['a unit of another kind is no choice', { mm: 'kPa' }, 0, '4978.4 mm'],
    ['a sentence stays', { degC: 'degF' }, 5, 'water, 24 °C'],
    ['a bare number stays', { mm: 'in' }, 6, '2'],
    ['a constant of a plate stays', { mm: 'in' }, 7, '31.842 mm'],
  ])('%s', (_what, chosen, at, value) => {
    expect(said(chosen)[at]).toBe(value)
  })
  test('nothing chosen changes nothing', () => {
    expect(inUnits(lines, {})).toEqual(lines)
  })
})
