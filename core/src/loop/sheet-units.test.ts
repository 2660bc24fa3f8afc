import { describe, expect, test } from 'vitest'
import { typedFor } from './sheet-told.ts'
import { inUnits, sheetUnitsOf, unitChoices } from './sheet-units.ts'

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
  test.each<[string, Record<string, string>, string]>([
    ['360 m³/h actual', { 'm3/h': 'L/min' }, '6000 L/min actual'],
    ['300 kPa gauge', { kPa: 'psi' }, '43.5113 psi gauge'],
    ['3 mm steel', { mm: 'in' }, '3 mm steel'],
  ])('%s: what stands behind the unit stays', (value, chosen, is) => {
    expect(inUnits([{ says: 'x', value }], chosen)[0]?.value).toBe(is)
  })
  test('a number that was entered is not one that was rounded', () => {
    const lines = [
      { says: '20 mA at', value: '121.11 °C' },
      { says: 'Pipe outside diameter', value: '219.07 mm' },
      { says: 'Another', value: '219.0 mm' },
    ]
    const entered = [
      { value: 121.1111111111, unit: 'degC' },
      { value: 219.075, unit: 'mm' },
    ]
    const said = (with_: typeof entered) =>
      inUnits(lines, { degC: 'degF', mm: 'in' }, with_).map((l) => l.value)
    expect(said(entered)).toEqual(['250 °F', '8.625 in', '8.62205 in'])
    expect(said([])).toEqual(['249.998 °F', '8.6248 in', '8.62205 in'])
  })
  test('the line that tells the units tells those of the sheet', () => {
    const line = { says: 'Units', value: 'mm, °C, kPa', units: ['mm', 'degC', 'kPa'] }
    expect(inUnits([line], { mm: 'in', kPa: 'psi' })[0]?.value).toBe('in, °C, psi')
  })
  test('nothing chosen changes nothing', () => {
    expect(inUnits(lines, {})).toEqual(lines)
  })
})

describe('a sheet speaks as its loop does', () => {
  test.each<[string | null, Record<string, string>, Record<string, string>]>([
    ['psi(g)', {}, { kPa: 'psi' }],
    ['degF', {}, { degC: 'degF' }],
    ['L/min', {}, { 'm3/h': 'L/min' }],
    // A millimetre of mercury is asked for by no device of this list: the sheet stays in kPa.
    ['mmHg', {}, {}],
    ['kPa', {}, {}],
    [null, { mm: 'in' }, { mm: 'in' }],
    ['psi', { kPa: 'bar' }, { kPa: 'bar' }],
    ['psi', { kPa: 'kPa', mm: 'in' }, { kPa: 'kPa', mm: 'in' }],
  ])('a loop in %s with %j chosen', (loop, chosen, is) => expect(sheetUnitsOf(loop, chosen)).toEqual(is))
  test.each<[string, string, string, string | null]>([
    ['what was typed in inches', '219.07 mm', '8.625 in', '8.625 in'],
    ['to the last place that is printed', '4.9784 m', '196 in', '196 in'],
    ['a pressure', '400 kPa gauge', '4 bar', '4 bar'],
    ['typed as it is printed', '219.07 mm', '219.07 mm', null],
    ['typed without a unit', '219.07 mm', '219.07', null],
    ['another number', '219.07 mm', '8.6 in', null],
    ['another kind of quantity', '219.07 mm', '8.625 bar', null],
    ['no quantity at all', 'Pt100, 3 wires', '8.625 in', null],
  ])('%s', (_, value, typed, is) => {
    expect(typedFor({ says: 'x', value }, { 'setUp.values.od_mm': typed })).toBe(is)
    expect(typedFor({ says: 'x', value }, { 'path.transmitter.range.high': typed })).toBeNull()
  })
})
