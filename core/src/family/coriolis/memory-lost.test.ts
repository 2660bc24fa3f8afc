import { describe, expect, test } from 'vitest'
import { codes, compute } from '../test/through-form.ts'

const LOST = {
  memoryLost: true, bore_mm: 10, flow_kgh: 180, least_kgh: 8, zs_kgh: 0.05, cutoff_kgh: 0.1, pulse_Hz: 1000,
  flowFactor_certificate: '4.2160', driveFrequency_certificate: '148.20', access: '0451',
} // prettier-ignore
const lines = (values: object = {}) => compute('coriolis', { ...LOST, ...values }).sheet
const at = (says: string, values: object = {}) => lines(values).find((l) => l.says === says)

describe('a lost memory', () => {
  test('the plate comes first, then what is lost with it, each once', () => {
    const parts = [...new Set(lines().map((l) => l.part))]
    expect(parts.slice(0, 2)).toEqual(['From the plate', 'Lost with it'])
    const says = lines().map((l) => l.says)
    expect(new Set(says).size).toBe(says.length)
    expect(says.slice(0, 4)).toEqual(['Tube bore', 'Flow factor', 'Drive frequency', 'Access code'])
    expect(says).toEqual(
      expect.arrayContaining([
        'Flow direction',
        'Span of the mass flow',
        'Span of the volume flow',
        'Span of the density',
        'Span of the temperature',
        'Totalizer 1',
        'Totalizer 2',
        'Current output',
      ]),
    )
  })
  test.each([
    ['mm', '10 mm', 'the same bore is 1 cm, 0.01 m, 0.393701 inch'],
    ['cm', '1 cm', 'the same bore is 10 mm, 0.01 m, 0.393701 inch'],
    ['m', '0.01 m', 'the same bore is 10 mm, 1 cm, 0.393701 inch'],
    ['in', '0.393701 inch', 'the same bore is 10 mm, 1 cm, 0.01 m'],
  ])('a device that asks for %s gets %s', (boreUnit, value, trap) => {
    const line = at('Tube bore', { boreUnit })
    expect(line?.value).toBe(value)
    expect(line?.trap).toContain(trap)
  })
  test('a factor keeps every decimal and is read back digit by digit', () => {
    expect(at('Flow factor')).toMatchObject({ value: '4.2160', exact: true })
  })
  test.each<[string, object, string]>([
    ['the number of mm where cm are asked', { boreUnit: 'cm', boreShown: 10 }, 'BORE_UNIT'],
    ['the number of cm where mm are asked', { boreUnit: 'mm', boreShown: 1 }, 'BORE_UNIT'],
    ['inches where metres are asked', { boreUnit: 'm', boreShown: 0.3937 }, 'BORE_UNIT'],
    ['another tube', { boreUnit: 'mm', boreShown: 15 }, 'BORE_OTHER'],
    ['the plate’s', { boreUnit: 'm', boreShown: 0.01 }, 'BORE_AS_PLATE'],
  ])('%s is told', (_what, change, code) => {
    expect(codes(compute('coriolis', { ...LOST, ...change }))).toContain(code)
  })
  test('what the plate has to say and nobody entered is named', () => {
    const r = compute('coriolis', { ...LOST, driveFrequency_certificate: '' })
    expect(r.findings.find((f) => f.code === 'PLATE_MISSING')?.says).toContain('Drive frequency')
  })
  test('spans are in the units that the device was set to', () => {
    const units = { massUnit: 't/h', volumeUnit: 'L/min', temperatureUnit: '°F', densityUnit: 'g/cm3', volume_m3h: 6, density_kg_m3: 1500, coldest_C: 0, hottest_C: 100 } // prettier-ignore
    const said = (says: string) => at(says, units)?.value
    expect(said('Span of the mass flow')).toBe('0.18 t/h')
    expect(said('Span of the volume flow')).toBe('100 L/min')
    expect(said('Span of the density')).toBe('0 to 1.5 g/cm³')
    expect(said('Span of the temperature')).toBe('32 to 212 °F')
    expect(said('Flow at 20 mA')).toBe('0.18 t/h')
    expect(said('Low-flow cutoff')).toBe('0.0001 t/h')
  })
  test('with its memory there is none of it', () => {
    expect(lines({ memoryLost: false }).map((l) => l.part)).not.toContain('From the plate')
  })
})

describe('outputs of a Coriolis meter', () => {
  test.each<[string, object, number]>([
    ['by frequency', { pulseBy: 'frequency', pulse_Hz: 1000 }, 20_000],
    ['by pulses per kg', { pulseBy: 'pulses', pulses_kg: 20_000 }, 20_000],
    ['by kg per pulse', { pulseBy: 'units', kg_pulse: 0.00005 }, 20_000],
  ])('told %s is the same output', (_what, change, perKg) => {
    const r = compute('coriolis', { ...LOST, ...change })
    expect(Number(r.rows.find((x) => x.label === 'Pulses per kg')?.value)).toBeCloseTo(perKg, 6)
  })
  test('rows exchanged within one document are named as that, and exchanged by one act', () => {
    const r = compute('coriolis', {
      lightPeriod_certificate: '8243.517',
      heavyPeriod_certificate: '9766.284',
      lightPeriod_device: '9766.284',
      heavyPeriod_device: '8243.517',
    })
    const f = r.findings.find((x) => x.code === 'ROWS_EXCHANGED')
    expect(f?.says).toMatch(
      /^In the device Period of the light point and Period of the heavy point are exchanged/,
    )
    expect(f?.fix?.set).toEqual([
      { path: 'setUp.values.lightPeriod_device', value: '8243.517' },
      { path: 'setUp.values.heavyPeriod_device', value: '9766.284' },
    ])
    expect(r.findings.filter((x) => x.code === 'DIFFERENT')).toEqual([])
  })
  test.each<[string, object, string]>([
    ['reverse totals of a forward meter', { total2: 'reverse' }, 'TOTAL_NEVER'],
    ['a fault that holds', { fault: 'hold' }, 'FAULT_HELD'],
    ['a source without span', { source: 'density', out_low: 5, out_high: 5 }, 'NO_SPAN'],
  ])('%s', (_what, change, code) => {
    expect(codes(compute('coriolis', { ...LOST, ...change }))).toContain(code)
  })
  test('a current output that is off stops a loop that reads it', () => {
    const root = { takers: [], finding: null }
    expect(codes(compute('coriolis', { ...LOST, currentOn: 'off' }, { root }))).toContain('CURRENT_OFF')
    expect(codes(compute('coriolis', { ...LOST, currentOn: 'off' }))).not.toContain('CURRENT_OFF')
  })
})
