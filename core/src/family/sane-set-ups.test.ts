import fc from 'fast-check'
import { expect, test } from 'vitest'
import { PIPE_SIZES } from '../media/pipe-sizes-table.ts'
import { rtdResistance_ohm } from './temperature/rtd.ts'
import { thermocouple_mV, thermocoupleRange_C } from './temperature/thermocouple.ts'
import { falseAlarms } from './test/mistakes.ts'
import type { Values } from './test/through-form.ts'

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const round = (x: number, step: number) => Number((Math.round(x / step) * step).toFixed(6))

/** Set-ups as a careful person enters them, by family: whatever their numbers, nothing is wrong with them. */
const SANE: Readonly<Record<string, fc.Arbitrary<Values>>> = {
  pressure: fc
    .record({
      duty: fc.constantFrom('gauge', 'absolute', 'differential'),
      urv: between(2, 20_000),
      spare: between(1.05, 6),
      off: between(-0.004, 0.004),
      at: between(0.2, 0.9),
    })
    .map(({ duty, urv, spare, off, at }): Values => {
      const urv_kPa = round(urv, 0.1)
      const known = round(at * urv_kPa, 0.001)
      return {
        duty, lrv_kPa: 0, urv_kPa, url_kPa: round(urv_kPa * spare, 0.1), below_m: 0, lineDensity: 0,
        compared: 'yes', known, reads: round(known + off * urv_kPa, 0.0001),
      } // prettier-ignore
    }),
  temperature: fc
    .record({
      sensor: fc.constantFrom('pt100', 'K', 'J', 'T', 'N', 'S'),
      low: between(0, 40),
      span: between(60, 200),
      at: between(0.2, 0.9),
      off: between(-0.9, 0.9),
    })
    .map(({ sensor, low, span, at, off }): Values => {
      const low_C = Math.round(low)
      const high_C = Math.round(low + span)
      const known = round(low_C + at * (high_C - low_C), 0.1)
      return {
        sensor, low_C, high_C, rtdClass: 'A', build: 'film', wires: '3', lead1_ohm: 0.5, lead2_ohm: 0.5, grade: '1',
        cold_C: 24, compared: 'yes', known, reads: round(known + off, 0.01),
        ...(sensor === 'pt100'
          ? { read_ohm: rtdResistance_ohm(known, 100) ?? 0 }
          : { read_mV: (thermocouple_mV(sensor as 'K', known) ?? 0) - (thermocouple_mV(sensor as 'K', 24) ?? 0) }),
      } // prettier-ignore
    })
    .filter(
      (v) => v['sensor'] === 'pt100' || Number(v['high_C']) <= thermocoupleRange_C(v['sensor'] as 'K')[1],
    ),
  'level-from-above': fc
    .record({
      empty: between(2, 12),
      blocking: between(0.2, 0.4),
      spare: between(0.05, 0.5),
      above: between(0, 0.2),
    })
    .map(({ empty, blocking, spare, above }): Values => {
      const empty_m = round(empty, 0.01)
      const blocking_m = round(blocking, 0.01)
      return {
        principle: 'ultrasonic', empty_m, blocking_m, full_m: round(blocking_m + 0.06 * empty_m + spare, 0.01),
        points: 'level', set_C: 18, gas_C: 18, shape: 'vertical', diameter_m: 3, shell_m: round(empty_m + above, 0.01),
      } // prettier-ignore
    }),
  'guided-wave': fc
    .record({
      probe: fc.constantFrom('rod', 'cable', 'twin', 'coax'),
      length: between(1, 9),
      eps: between(8, 80),
    })
    .map(({ probe, length, eps }): Values => {
      const probe_m = round(length, 0.01)
      return {
        probe, probe_m, topDead_m: 0.2, bottomDead_m: 0.2, eps: round(eps, 0.1), points: 'distance',
        at4_m: round(probe_m - 0.25, 0.01), at20_m: 0.25, shape: 'none',
      } // prettier-ignore
    }),
  thermal: fc
    .record({ pipe: fc.constantFrom('4', '6', '8', '10', '12'), v: between(5, 60), kPa: between(20, 300) })
    .map(({ pipe, v, kPa }): Values => {
      const size = PIPE_SIZES.find((p) => p.nps === pipe)
      const [, od = 273, wall = 9.27] = size?.schedules.find(([name]) => name === 'STD') ?? []
      const bore_m = (od - 2 * wall) / 1000
      return {
        gas: 'air', od_mm: od, wall_mm: wall, gauge_kPa: round(kPa, 1), t_C: 30, v_m_s: 0,
        fs_kgh: round(v * 0.8167 * 0.93 * (Math.PI / 4) * bore_m ** 2 * 3600 * 1.204, 1), cutoff_kgh: 0.5,
        stackBy: 'pieces', valveBore_mm: 25, restraint: 'cable', rated_N: 1000, probe_mm: 800, room_m3: 5000,
      } // prettier-ignore
    }),
  orifice: fc
    .record({ D: between(60, 400), beta: between(0.3, 0.72), span: between(5, 60), t: between(5, 60) })
    .map(({ D, beta, span, t }): Values => ({
      D_mm: round(D, 0.01), d_mm: round(D * beta, 0.01), taps: 'flange', fluid: 'water', t_C: round(t, 0.1),
      gauge_kPa: 400, span_kPa: round(span, 0.1), cut_pct: 0.5,
    })), // prettier-ignore
  coriolis: fc
    .record({
      bore: between(6, 80),
      dt: between(40, 250),
      ratio: between(1.05, 1.4),
      period: between(3000, 14_000),
    })
    .map(({ bore, dt, ratio, period }): Values => {
      const bore_mm = round(bore, 0.1)
      const q_g_s = 1000 * 10 * (Math.PI / 4) * (bore_mm / 1000) ** 2 * 1000
      const F = (q_g_s / dt).toFixed(3)
      const [light, heavy] = [period.toFixed(3), (period * ratio).toFixed(3)]
      const full = round(q_g_s * 3.6 * 0.5, 1)
      return {
        flowFactor_certificate: F, flowFactor_device: F, flowTemperature_certificate: '5.1', lightPeriod_certificate: light,
        lightPeriod_device: light, heavyPeriod_certificate: heavy, lightDensity_certificate: '0.0012',
        heavyDensity_certificate: '0.9982', densityTemperature_certificate: '4.4', bore_mm, flow_kgh: full,
        least_kgh: round(full * 0.05, 0.1), zs_kgh: round(full * 5e-5, 1e-5), cutoff_kgh: round(full * 1e-4, 1e-4),
      } // prettier-ignore
    }),
  ph: fc
    .record({ slope: between(93, 101), offset: between(-12, 12), t: between(10, 35) })
    .map(({ slope, offset, t }): Values => {
      const t_C = Math.round(t)
      const mV = (pH: number) => round(offset - (slope / 100) * 0.198416 * (t_C + 273.15) * (pH - 7), 0.1)
      return {
        low_pH: 4, high_pH: 10, slope_pct: round(slope, 0.1), offset_mV: round(offset, 0.1), sample_C: t_C,
        buffer1: 'T7.00', mV1: mV(7.0 + (25 - t_C) * 0.002), t1_C: t_C, buffer2: 'T4.00', mV2: mV(4.0), t2_C: t_C,
      } // prettier-ignore
    }),
}

test.each(Object.entries(SANE))('%s: of thirty sane set-ups none is complained of', (family, set) => {
  fc.assert(
    fc.property(set, (values) => {
      expect(falseAlarms(family, values)).toEqual([])
    }),
    { numRuns: 30, seed: 17 },
  )
})
