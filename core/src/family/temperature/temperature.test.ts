import { expect, describe, test } from 'vitest'
import { surfaceTemperature } from './mounting.ts'
import { rtdTemperature_C, leadError_C, rtdResistance_ohm, RTD_CLASSES, rtdTolerance_C } from './rtd.ts'
import {
  withColdJunction,
  thermocoupleRange_C,
  THERMOCOUPLES,
  thermocouple_mV,
  thermocoupleTolerance_C,
  thermocouple_C,
  type Thermocouple,
} from './thermocouple.ts'
import { row, type Values, compute, refused, codes } from '../test/through-form.ts'

describe('resistance thermometers', () => {
  test('18 both ways', () => {
    expect(rtdResistance_ohm(64.2)).toBeCloseTo(124.853261, 6)
    expect(rtdResistance_ohm(64.2, 1000)).toBeCloseTo(1248.53261, 5)
    expect(rtdTemperature_C(124.6)).toBeCloseTo(63.53952, 5)
    expect(rtdResistance_ohm(-35)).toBeCloseTo(86.247785, 6)
    expect(rtdTemperature_C(80)).toBeCloseTo(-50.77114, 5)
    expect(leadError_C(64.2, 2, 0.42, 0.42)).toBeCloseTo(2.19156, 5)
    expect(leadError_C(64.2, 3, 0.45, 0.4)).toBeCloseTo(0.13041, 5)
    expect(leadError_C(64.2, 4, 5, 1)).toBeCloseTo(0, 9)
    expect(rtdTolerance_C('A', 64.2)).toBeCloseTo(0.2784, 9)
    expect(rtdTolerance_C('B', 64.2)).toBeCloseTo(0.621, 9)
  })
  test('there and back over the whole range; outside there is no number', () => {
    for (let t = -200; t <= 850; t += 12.5)
      expect(rtdTemperature_C(rtdResistance_ohm(t) ?? 0)).toBeCloseTo(t, 9)
    expect([
      rtdResistance_ohm(-201),
      rtdResistance_ohm(851),
      rtdTemperature_C(10),
      rtdTemperature_C(400),
    ]).toEqual([null, null, null, null])
    for (const c of RTD_CLASSES) expect(rtdTolerance_C(c, 100)).toBeGreaterThan(rtdTolerance_C(c, 0))
  })
})

/** Rounded to 0.001 mV from the published tables. */
const PUBLISHED: Readonly<Record<Thermocouple, readonly (readonly [t: number, mV: number])[]>> = {
  K: [[-200, -5.891], [-100, -3.554], [100, 4.096], [500, 20.644], [1000, 41.276], [1372, 54.886]],
  T: [[-200, -5.603], [-100, -3.379], [100, 4.279], [200, 9.288], [300, 14.862], [400, 20.872]],
  J: [[-200, -7.89], [100, 5.269], [400, 21.848], [760, 42.919], [1000, 57.953], [1200, 69.553]],
  N: [[-200, -3.99], [100, 2.774], [500, 16.748], [800, 28.455], [1000, 36.256], [1300, 47.513]],
  E: [[-200, -8.825], [-100, -5.237], [100, 6.319], [500, 37.005], [800, 61.017], [1000, 76.373]],
  S: [[-50, -0.236], [100, 0.646], [500, 4.233], [1000, 9.587], [1400, 14.373], [1768, 18.693]],
  R: [[-50, -0.226], [100, 0.647], [500, 4.471], [1000, 10.506], [1400, 16.04], [1768, 21.101]],
  B: [[100, 0.033], [300, 0.431], [600, 1.792], [1000, 4.834], [1400, 8.956], [1820, 13.82]],
} // prettier-ignore

const JOINTS: readonly (readonly [Thermocouple, number])[] = [
  ['E', 0],
  ['K', 0],
  ['N', 0],
  ['T', 0],
  ['J', 760],
  ['B', 630.615],
  ['R', 1064.18],
  ['R', 1664.5],
  ['S', 1064.18],
  ['S', 1664.5],
]

describe('thermocouples', () => {
  test.each(THERMOCOUPLES)('type %s meets the published table and comes back', (type) => {
    for (const [t, mV] of PUBLISHED[type])
      expect(Math.abs((thermocouple_mV(type, t) ?? 0) - mV), `${type} ${t}`).toBeLessThanOrEqual(0.0006)
    const [from, top] = thermocoupleRange_C(type)
    const low = type === 'B' ? 250 : type === 'R' || type === 'S' ? -50 : -200
    for (let t = low; t <= top; t += (top - low) / 37)
      expect(Math.abs((thermocouple_C(type, thermocouple_mV(type, t) ?? 0) ?? 0) - t)).toBeLessThan(0.001)
    expect([
      thermocouple_mV(type, from - 1),
      thermocouple_mV(type, top + 1),
      thermocouple_C(type, 1000),
    ]).toEqual([null, null, null])
  })
  test.each(JOINTS)('type %s is continuous at %d °C', (type, t) =>
    expect(Math.abs((thermocouple_mV(type, t) ?? 0) - (thermocouple_mV(type, t + 1e-7) ?? 0))).toBeLessThan(
      1e-5,
    ),
  )
  test('type B tells nothing near room temperature', () => {
    for (let t = 1; t < 42; t++) {
      const mV = thermocouple_mV('B', t) ?? 1
      expect(mV).toBeLessThanOrEqual(0)
      expect(mV).toBeGreaterThan(-0.0026)
    }
    expect(thermocouple_C('B', 0.1)).toBeNull()
  })
  test('19 the cold junction adds as a voltage', () => {
    const r = withColdJunction('K', 33, 35)
    expect(r?.cold_mV).toBeCloseTo(1.4071, 4)
    expect(r?.total_mV).toBeCloseTo(34.4071, 4)
    expect(r?.t_C).toBeCloseTo(827.695, 3)
    expect((thermocouple_C('K', 33) ?? 0) + 35).toBeCloseTo(828.289, 3)
    expect(thermocouple_C('K', 33)).toBeCloseTo(793.289, 3)
    expect(thermocoupleTolerance_C('K', 1, 800)).toBeCloseTo(3.2, 9)
    expect(thermocoupleTolerance_C('T', 2, 20)).toBe(1)
    expect(thermocoupleTolerance_C('S', 1, 20)).toBe(1)
    expect(thermocoupleTolerance_C('R', 1, 1300)).toBeCloseTo(1.6, 9)
    expect(thermocoupleTolerance_C('R', 2, 1300)).toBeCloseTo(3.25, 9)
    expect(thermocoupleTolerance_C('B', 2, 1500)).toBeCloseTo(3.75, 9)
    // Outside its range a class promises nothing.
    expect(thermocoupleTolerance_C('K', 1, 1100)).toBeNull()
    expect(thermocoupleTolerance_C('K', 2, 1100)).toBeCloseTo(8.25, 9)
    expect(thermocoupleTolerance_C('T', 1, -100)).toBeNull()
    expect(thermocoupleTolerance_C('J', 2, 800)).toBeNull()
    expect(thermocoupleTolerance_C('B', 1, 1000)).toBeNull()
    expect(thermocoupleTolerance_C('S', 2, -5)).toBeNull()
  })
  test('20 clamped on a pipe, with and without insulation', () => {
    const pipe = {
      fluid_C: 82,
      ambient_C: 8,
      bore_m: 0.1023,
      od_m: 0.1143,
      wall_W_mK: 16,
      inside_W_m2K: 1200,
      insulation_m: 0.025,
      insulation_W_mK: 0.04,
      outside_W_m2K: 10,
    }
    const r = surfaceTemperature(pipe)
    expect(r.inside_K_m_W).toBeCloseTo(0.0036963, 7)
    expect(r.outside_K_m_W).toBeCloseTo(1.637541, 6)
    expect(r.surface_C).toBeCloseTo(81.8333, 4)
    expect(surfaceTemperature({ ...pipe, insulation_m: 0 }).surface_C).toBeCloseTo(81.0307, 4)
  })
})

describe('temperature through its form', () => {
  test('18, 19 readings become temperatures', () => {
    expect(row(compute('temperature', { read_ohm: 124.6 }), 'Resistance read is')).toBeCloseTo(63.53952, 5)
    const k = compute('temperature', { sensor: 'K', high_C: 900, cold_C: 35, read_mV: 33 })
    expect(row(k, 'Voltage read is')).toBeCloseTo(827.695, 3)
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['below what the sensor is defined for', { low_C: -250 }, 'SENSOR_RANGE'],
    ['below absolute zero is not even an entry', { low_C: -270, sensor: 'B' }, 'SENSOR_RANGE'],
    ['two long leads', { wires: '2', lead1_ohm: 2, lead2_ohm: 2 }, 'LEADS'],
    ['a class beyond its range', { rtdClass: 'AA', high_C: 300 }, 'CLASS_OUTSIDE'],
    ['an open circuit', { read_ohm: 5000 }, 'RESISTANCE_OUT_OF_RANGE'],
    ['reversed leads', { sensor: 'K', read_mV: -15 }, 'VOLTAGE_OUT_OF_RANGE'],
    ['a short well', { mounting: 'well', immersion_mm: 40 }, 'IMMERSION'],
    ['clamped on a gas line', { mounting: 'pipe', inside: 'gas', high_C: 82 }, 'CLAMP_ON_GAS'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('temperature', values))).toContain(code),
  )
  test('the entry itself refuses less than absolute zero', () => {
    expect(refused('temperature', { low_C: -300 })[0]?.[1]).toMatch(/possible is -273.15 to 2000/)
  })
})
