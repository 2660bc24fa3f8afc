import { describe, expect, test } from 'vitest'
import { codes, compute, row } from '../test/through-form.ts'
import { heightOf, stemMarks, type Stack } from './stack.ts'

const STACK: Stack = {
  fitting_mm: 45,
  above_mm: 50,
  valve_mm: 95,
  valveBore_mm: 25,
  below_mm: 62,
  stub_mm: 60,
}

describe('a probe in its stack of fittings', () => {
  test('the pieces make the length from face to pipe', () => expect(heightOf(STACK)).toBe(312))
  test('clear is where the tip stands above the valve, with 5 mm to spare', () => {
    const m = stemMarks(STACK, 460.5, 19.05)
    expect([m.clear_mm, m.travel_mm, m.problem]).toEqual([90, 370.5, null])
    expect(m.room_mm).toBeCloseTo(5.95, 9)
  })
  test.each<[string, Partial<Stack>, number, string]>([
    ['a valve narrower than the probe', { valveBore_mm: 19 }, 19.05, 'VALVE_TOO_NARROW'],
    ['a valve of just its size', { valveBore_mm: 19.05 }, 19.05, 'VALVE_TOO_NARROW'],
    ['no room above the valve', { fitting_mm: 20, above_mm: 9 }, 19.05, 'NO_ROOM_ABOVE_VALVE'],
  ])('%s is no stack', (_what, change, head, code) => {
    expect(stemMarks({ ...STACK, ...change }, 460.5, head).problem?.code).toBe(code)
  })
})

describe('the set-up of a probe', () => {
  const BASE = {
    stackBy: 'pieces',
    valveBore_mm: 25,
    gauge_kPa: 720,
    restraint: 'retractor',
    stroke_mm: 600,
    rated_N: 1000,
  }
  test('W19 from its pieces', () => {
    const r = compute('thermal', BASE)
    expect(row(r, 'Mark on the stem')).toBeCloseTo(460.5, 6)
    expect(row(r, 'Mark “clear of the valve”')).toBe(90)
    expect(row(r, 'Force on the stem')).toBeCloseTo(205.217, 3)
    expect(r.drawing?.says).toContain('clear of the valve at 90 mm')
    expect(r.sheet.map((l) => l.says)).toContain('Mark “clear of the valve”')
  })
  test('from one length the clear mark is not known, and said so', () => {
    const r = compute('thermal', { ...BASE, stackBy: 'whole' })
    expect(r.findings.find((f) => f.code === 'CLEAR_NOT_KNOWN')?.says).toMatch(/^Not judged/)
    expect(r.sheet.find((l) => l.says.startsWith('Mark “clear'))?.value).toBe('not known')
  })
  test.each<[string, Record<string, number | string>, string]>([
    ['a retractor that travels too little', { stroke_mm: 300 }, 'RETRACTOR_SHORT'],
    ['a restraint that is too weak', { rated_N: 250 }, 'RESTRAINT_WEAK'],
    ['none at 7 bar', { restraint: 'none' }, 'RETRACTOR'],
    ['one whose strength nobody told', { rated_N: 0 }, 'RESTRAINT_NOT_TOLD'],
    ['a valve with hardly any room', { valveBore_mm: 20 }, 'VALVE_TIGHT'],
  ])('%s', (_what, change, code) => {
    expect(codes(compute('thermal', BASE))).not.toContain(code)
    expect(codes(compute('thermal', { ...BASE, ...change }))).toContain(code)
  })
  test('a full scale said five ways is one thing', () => {
    const r = compute('thermal', { ...BASE, fs_kgh: 2400 })
    const v = Number(row(r, 'Velocity at full scale, base'))
    // W19's geometry: 14.20 m/s are 2012.34 m³/h; 2400 kg/h at 1.2045 kg/m³.
    expect(v).toBeCloseTo((14.2 * 2400) / Number(row(r, 'Density at base')) / 2012.34, 4)
    expect(Number(row(r, 'Full scale as base volume')) * Number(row(r, 'Density at base'))).toBeCloseTo(
      2400,
      6,
    )
    expect(Number(row(r, 'Full scale as actual volume')) * Number(row(r, 'Density at work'))).toBeCloseTo(
      2400,
      6,
    )
    expect(codes(compute('thermal', { ...BASE, v_m_s: Number(v.toFixed(2)) }))).toContain('FULL_SCALE_AGREES')
  })
  test.each<[string, Record<string, number | string>, RegExp]>([
    ['full scale in lb/h', { fs_kgh: 5291 }, /lb\/h/],
    ['base at 0 °C on the plate', { v_m_s: 13.12 }, /0 °C/],
    ['velocity at working conditions', { v_m_s: 1.755 }, /working conditions/],
    ['velocity in ft/s', { v_m_s: 46.1 }, /ft\/s/],
  ])('%s is named', (_what, change, says) => {
    const r = compute('thermal', { ...BASE, v_m_s: 14.06, ...change })
    expect(codes(r)).toContain('FULL_SCALE_DISAGREES')
    expect(
      r.findings
        .filter((f) => f.code === 'LIKELY_CAUSE')
        .map((f) => f.says)
        .join(' '),
    ).toMatch(says)
  })
})

describe('a nozzle certificate in its own pressures', () => {
  const NOZZLE = {
    p0_list: '305 505 705 905',
    certified_list: '20.24 33.56 46.87 60.25',
    indicated_list: '20.30 33.62 46.75 60.10',
  }
  const deviations = (values: Record<string, number | string>) =>
    compute('thermal', values).tables?.[0]?.rows.map((r) => Number(r[3])) ?? []
  test.each([
    ['bar', '3.05 5.05 7.05 9.05'],
    ['barg', '2.03675 4.03675 6.03675 8.03675'],
    ['psi', '44.236510 73.244059 102.251608 131.259157'],
    ['kPag', '203.675 403.675 603.675 803.675'],
  ])('W21 in %s is W21', (p0_unit, p0_list) => {
    const there = deviations(NOZZLE)
    expect(there).toHaveLength(4)
    deviations({ ...NOZZLE, p0_unit, p0_list }).forEach((d, i) => expect(d).toBeCloseTo(there[i] ?? NaN, 3))
  })
  test('gauge read as absolute is told, with the unit that fits', () => {
    const r = compute('thermal', { ...NOZZLE, p0_unit: 'kPag' })
    const far = r.findings.find((f) => f.code === 'CERTIFICATE_FAR')
    expect(far?.says).toContain('Read in kPa absolute they fit')
    expect(far?.fix?.set).toEqual([{ path: 'setUp.values.p0_unit', value: 'kPa' }])
  })
})
