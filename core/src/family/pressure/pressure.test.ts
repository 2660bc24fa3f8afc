import { expect, describe, test } from 'vitest'
import { staticError_pct, TYPICAL_ACCURACY, accuracy_pct, turndown } from './accuracy.ts'
import { interfaceAt_Pa, type DpLevel, dpRange, indicatedLevel_m, pressureAtTap_Pa } from './hydrostatic.ts'
import { row, type Values, compute, codes } from '../test/through-form.ts'

describe('hydrostatic and differential level', () => {
  const WET: DpLevel = {
    lowerTap_m: 0.2,
    upperTap_m: 3,
    transmitter_m: -0.5,
    density: 1180,
    vapourDensity: 0,
    highFill: 1000,
    lowFill: 1000,
  }
  const legs: readonly [why: string, d: DpLevel, lrv: number, urv: number, shift: string][] = [
    ['14 wet leg', WET, -27.45862, 2.62818, 'ELEVATED'],
    ['14 dry leg, line of brine', { ...WET, highFill: 1180, lowFill: 0 }, 8.10029, 38.1871, 'SUPPRESSED'],
    ['14 remote seals', { ...WET, highFill: 960, lowFill: 960 }, -26.36028, 3.72653, 'ELEVATED'],
    [
      '14 remote seals, transmitter elsewhere',
      { ...WET, highFill: 960, lowFill: 960, transmitter_m: -7 },
      -26.36028,
      3.72653,
      'ELEVATED',
    ],
  ]
  test.each(legs)('%s', (_why, d, lrv, urv, shift) => {
    const r = dpRange(d, 0.2, 2.8)
    expect(r.lrv_Pa / 1000).toBeCloseTo(lrv, 5)
    expect(r.urv_Pa / 1000).toBeCloseTo(urv, 5)
    expect(r.span_Pa / 1000).toBeCloseTo(30.0868, 4)
    expect(r.shift).toBe(shift)
  })
  test('15 heavier brine, and an interface', () => {
    expect(indicatedLevel_m(0.2, 1.6, 1205, 1180)).toBeCloseTo(1.62966, 5)
    const d = { lower: 1180, upper: 860, fill: 960, lowerTap_m: 0, upperTap_m: 2 }
    expect(interfaceAt_Pa(d, 0) / 1000).toBeCloseTo(-1.96133, 5)
    expect(interfaceAt_Pa(d, 2) / 1000).toBeCloseTo(4.31493, 5)
    expect(interfaceAt_Pa(d, 0.7) / 1000).toBeCloseTo(0.23536, 5)
  })
  test('16 a transmitter below its tap, 17 turndown and static pressure', () => {
    expect(pressureAtTap_Pa(605_000, 1025, 3.2) / 1000).toBeCloseTo(572.83419, 5)
    const td = turndown(160, 8)
    expect(td).toBe(20)
    expect(accuracy_pct(TYPICAL_ACCURACY, td)).toBeCloseTo(0.115, 9)
    expect((accuracy_pct(TYPICAL_ACCURACY, td) * 8) / 100).toBeCloseTo(0.0092, 9)
    expect(accuracy_pct(TYPICAL_ACCURACY, 4)).toBe(0.065)
    expect(staticError_pct(0.05, 12, 70, 160, 8)).toBeCloseTo(0.17143, 5)
  })
})

describe('pressure through its form', () => {
  const WET: Values = {
    duty: 'wet',
    density: 1180,
    densityNow: 1180,
    lineFill: 1000,
    fill: 1000,
    url_kPa: 60,
  }
  test('14 the wet leg, 14 the dry leg', () => {
    const r = compute('pressure', WET)
    expect(row(r, '4 mA at')).toBeCloseTo(-27.45862, 5)
    expect(row(r, '20 mA at')).toBeCloseTo(2.62818, 5)
    expect(row(r, 'Zero shift')).toMatch(/elevated/)
    const dry = compute('pressure', { ...WET, duty: 'dry', lineFill: 1180 })
    expect(row(dry, '4 mA at')).toBeCloseTo(8.10029, 5)
    expect(row(dry, 'Zero shift')).toMatch(/suppressed/)
  })
  test('16 a transmitter below its tap reads the head as well', () => {
    const r = compute('pressure', {
      lrv_kPa: 0,
      urv_kPa: 572.83419,
      below_m: 3.2,
      lineDensity: 1025,
      url_kPa: 1000,
    })
    expect(row(r, '20 mA at')).toBeCloseTo(605, 4)
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['no span', { lrv_kPa: 5, urv_kPa: 5 }, 'RANGE'],
    ['below nothing', { duty: 'absolute', lrv_kPa: -20 }, 'RANGE'],
    ['below a vacuum', { lrv_kPa: -150 }, 'RANGE'],
    ['a cell too small', { urv_kPa: 500 }, 'RANGE_OUTSIDE_SENSOR'],
    ['a cell far too large', { urv_kPa: 8, url_kPa: 160 }, 'TURNDOWN'],
    ['static pressure', { duty: 'differential', urv_kPa: 8, url_kPa: 160, line_kPa: 1200 }, 'STATIC'],
    ['two water columns', { columnTx: 'conv', columnCal: '20C' }, 'WATER_COLUMN_MIXED'],
    ['heavier brine', { ...WET, densityNow: 1205 }, 'DENSITY'],
    ['a heavier liquid on top', { duty: 'interface', density: 860, upperDensity: 1180 }, 'RANGE'],
    ['equalising in service', { manifold: 'three-valve', sequence: 'open E' }, 'THROUGH_FLOW'],
    ['a valve that is not there', { manifold: 'five-valve', sequence: 'open VH' }, 'MANIFOLD_MOVE'],
    [
      'the right order',
      { manifold: 'three-valve', sequence: 'close L; open E; close H; open VH; open VL' },
      'MANIFOLD_FINE',
    ],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('pressure', values))).toContain(code),
  )
  test('mixed water columns are a pure span error of 0.18 %', () => {
    const r = compute('pressure', { columnTx: '20C', columnCal: 'conv' })
    expect(r.findings.find((f) => f.code === 'WATER_COLUMN_MIXED')?.says).toMatch(/0\.1796 %/)
  })
})
