import { expect, describe, test } from 'vitest'
import { cutoff, pulses, kneeFlow, errorAt_pct } from './accuracy.ts'
import { density, massFlow_g_s } from './flow-and-density.ts'
import { splitText, compareTyped } from './keying.ts'
import { type Characterization, plausible } from './plausible.ts'
import { row, type Values, compute, refused, codes } from '../test/through-form.ts'

const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

describe('Coriolis', () => {
  test('W16 mass flow and density of FT-206', () => {
    expect(splitText('31.8425.08', 6)).toEqual({ kind: 'split', first: '31.842', second: '5.08' })
    const q = massFlow_g_s({ F: 31.842, kF: 5.08, zero_us: 0.0127, tRef_C: 0 }, 118.734, 37.6)
    near(q, 3708.116, 1e-6)
    const factors = {
      lightPeriod_us: 8243.517,
      heavyPeriod_us: 9766.284,
      lightDensity: 0.0012,
      heavyDensity: 0.9982,
      kD: 4.44,
      kf: 0,
      tRef_C: 0,
    }
    const rho = density(factors, 10012.35, 37.6, 118.7213)
    near(rho, 1.11429)
    near((q * 3.6) / rho / 1000, 11.98)
    near(
      density({ ...factors, lightPeriod_us: 9766.284, heavyPeriod_us: 8243.517 }, 10012.35, 37.6, 118.7213),
      -0.114889,
    )
  })
  test.each([
    ['31,8425.08', 6, /comma/],
    ['31.842 5.08', 6, /space/],
    ['31.8425.08', 10, /nothing is left/],
    ['31.842x5.08', 6, /“x5.08” is not a number/],
  ] as const)('%s split behind %d is refused with a reason', (text, after, says) => {
    const r = splitText(text, after)
    expect(r.kind === 'refused' ? r.says : '').toMatch(says)
  })
  test('trailing zeros of both parts are kept', () =>
    expect(splitText('31.8005.00', 6)).toEqual({ kind: 'split', first: '31.800', second: '5.00' }))
  const slips: readonly [cert: string, typed: string, slip: string, power: number | null][] = [
    ['31.842', '31.842', 'SAME', null],
    ['31.840', '31.84', 'SAME_VALUE', null],
    ['31.842', '38.142', 'TRANSPOSED', null],
    ['8243.517', '82435.17', 'DECIMAL_SHIFT', 1],
    ['31.842', '31.843', 'DIGIT_CHANGED', null],
    ['31.842', '31.82', 'DIGIT_DROPPED', null],
    ['31.842', '31.8422', 'DIGIT_ADDED', null],
    ['31.842', '17.905', 'DIFFERENT', null],
  ]
  test.each(slips)('W17 %s typed as %s: %s', (cert, typed, slip, power) =>
    expect(compareTyped(cert, typed)).toEqual({ slip, power }),
  )
  const good: Characterization = {
    lightPeriod_us: 8243.517,
    heavyPeriod_us: 9766.284,
    lightDensity: 0.0012,
    heavyDensity: 0.9982,
    densityUnit: 'g/cm3',
    kF: 5.08,
    kD: 4.44,
    bore_mm: 25,
    F: 31.842,
  }
  const checks: readonly [change: Partial<Characterization>, codes: string[]][] = [
    [{}, []],
    [{ lightPeriod_us: 9766.284, heavyPeriod_us: 8243.517 }, ['PERIODS_SWAPPED', 'PERIOD_RATIO']],
    [{ lightDensity: 0.9982, heavyDensity: 0.0012 }, ['DENSITIES_SWAPPED', 'DENSITY_RANGE']],
    [{ densityUnit: 'kg/m3' }, ['DENSITY_UNITS']],
    [{ lightPeriod_us: 82435.17 }, ['PERIODS_SWAPPED', 'PERIOD_RATIO']],
    [{ kF: 0.508 }, ['TEMPERATURE_COEFFICIENT']],
    [{ kD: 44.4 }, ['TEMPERATURE_COEFFICIENT']],
    [{ bore_mm: 0.025 }, ['SIZE_UNIT', 'FACTOR_SCALE']],
    [{ F: 318.42 }, ['FACTOR_SCALE']],
  ]
  test.each(checks)('%j', (change, codes) =>
    expect(plausible({ ...good, ...change }).map((f) => f.code)).toEqual(codes),
  )
  test('W18 error curve, cutoff and pulses', () => {
    near(kneeFlow(0.1, 1.4), 1400)
    near(errorAt_pct(13600, 0.1, 1.4, 'max'), 0.1)
    near(errorAt_pct(900, 0.1, 1.4, 'max'), 0.15556, 4e-5)
    near(errorAt_pct(300, 0.1, 1.4, 'max'), 0.46667)
    expect(cutoff(1.4)).toEqual({ cutoff: 2.8, hidden_perDay: 2.8 * 24 })
    const p = pulses({ frequency_Hz: 8000, rate_perHour: 20_000, limit_Hz: 10_000, width_ms: 0.05 }, 13_600)
    near(p.frequency_Hz, 5440)
    near(p.pulsesPerUnit, 1440)
    near(p.unitsPerPulse, 0.000694444)
    near(p.top_Hz, 8400)
    near(p.widest_ms, 0.059524)
    expect([p.topOk, p.widthOk]).toEqual([true, true])
  })
})

describe('Coriolis through its form', () => {
  const TAG: Values = {
    flowFactor_certificate: '31.8425.08',
    joined: 'flowFactor',
    joinedWith: 'flowTemperature',
    splitAfter: 6,
    lightPeriod_certificate: '8243.517',
    heavyPeriod_certificate: '9766.284',
    lightDensity_certificate: '0.0012',
    heavyDensity_certificate: '0.9982',
    densityTemperature_certificate: '4.44',
    dt_us: 118.734,
    zero_us: 0.0127,
    period_us: 10012.35,
    tube_C: 37.6,
  }
  test('the entered factors are tried on a reading', () => {
    const r = compute('coriolis', TAG)
    expect(row(r, 'Mass flow of the reading')).toBeCloseTo(13349.2, 0)
    expect(row(r, 'Density of the reading')).toBeCloseTo(1.11429, 5)
    expect(codes(r)).toEqual(['CUTOFF_FINE'])
  })
  const slips: readonly [why: string, values: Values, code: string][] = [
    ['two digits exchanged on the device', { flowFactor_device: '38.1425.08' }, 'TRANSPOSED'],
    ['a decimal moved', { lightPeriod_device: '82435.17' }, 'DECIMAL_SHIFT'],
    [
      'the two periods exchanged',
      { lightPeriod_certificate: '9766.284', heavyPeriod_certificate: '8243.517' },
      'PERIODS_SWAPPED',
    ],
    ['a joined text nobody took apart', { joined: 'none' }, 'CONSTANT_UNREADABLE'],
    ['a split at the wrong character', { splitAfter: 12 }, 'SPLIT'],
    ['both parts the same constant', { joinedWith: 'flowFactor' }, 'SPLIT_ROLES'],
    ['the second part in a row of its own too', { flowTemperature_tag: '5.08' }, 'SPLIT_TWICE'],
    ['metres for millimetres', { bore_mm: 0.025 }, 'SIZE_UNIT'],
    ['a cutoff of nothing', { cutoff_kgh: 0 }, 'CUTOFF'],
    ['a receiver that is too slow', { limit_Hz: 8000 }, 'PULSES'],
    ['a lost memory', { memoryLost: true }, 'MEMORY_LOST'],
  ]
  test.each(slips)('%s', (_why, values, code) =>
    expect(codes(compute('coriolis', { ...TAG, ...values }))).toContain(code),
  )
  test('a text with a space is told at its field', () => {
    const [told] = refused('coriolis', { flowFactor_certificate: '31.84 25.08' })
    expect(told?.[0]).toBe('flowFactor_certificate')
  })
  test('what the tag calls a constant is on the sheet and in the sentences, typed by hand only', () => {
    const r = compute('coriolis', { ...TAG, lightPeriod_name: 'TL', lightPeriod_tag: '8234.517' })
    expect(r.sheet.find((l) => l.says === 'TL')?.value).toBe('8243.517')
    expect(r.findings.find((f) => f.code === 'TRANSPOSED')?.says).toMatch(/^TL: /)
  })
  test('the flow term of the density is used where the tag has one', () => {
    const without = row(compute('coriolis', TAG), 'Density of the reading')
    const withTerm = row(compute('coriolis', { ...TAG, densityFlow_tag: '0.1' }), 'Density of the reading')
    expect(Number(withTerm)).toBeLessThan(Number(without))
  })
})
