import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { stemShare, surfaceTemperature } from './mounting.ts'
import {
  leadError_C,
  RTD_CLASSES,
  RTD_FROM_C,
  RTD_TO_C,
  rtdResistance_ohm,
  rtdTemperature_C,
  rtdTolerance_C,
} from './rtd.ts'
import {
  thermocouple_mV,
  thermocoupleRange_C,
  THERMOCOUPLES,
  thermocoupleTolerance_C,
  withColdJunction,
} from './thermocouple.ts'

const celsius = z.number().describe('°C')
const R0 = z.union([z.literal(100), z.literal(1000)]).default(100)

export const temperatureCalculations = [
  calculation({
    name: 'temperature.rtd',
    title: 'Platinum thermometer, both ways',
    source: 'IEC 60751',
    input: z.strictObject({
      t: celsius.optional(),
      R: z.number().optional().describe('Ω'),
      R0,
      class: z.enum(RTD_CLASSES).default('B'),
    }),
    output: z.object({ t: z.number(), R: z.number(), tolerance: z.number() }),
    run: ({ t, R, R0: r0, class: c }) => {
      if ((t === undefined) === (R === undefined))
        return refused('Give the temperature or the resistance.', 't')
      const at = t ?? rtdTemperature_C(R ?? 0, r0)
      if (at === null)
        return refused(`No temperature of a Pt${r0} has ${R} Ω.`, 'R', 'RESISTANCE_OUT_OF_RANGE')
      const ohm = R ?? rtdResistance_ohm(at, r0)
      if (ohm === null) return refused(`Defined from ${RTD_FROM_C} to ${RTD_TO_C} °C.`, 't')
      return { t: at, R: ohm, tolerance: rtdTolerance_C(c, at) }
    },
    example: { t: 64.2 },
  }),
  calculation({
    name: 'temperature.leads',
    title: 'What the leads of a thermometer add',
    source: 'Two wires add both leads, three their difference, four none',
    input: z.strictObject({
      t: celsius,
      wires: z.union([z.literal(2), z.literal(3), z.literal(4)]),
      r1: z.number().min(0),
      r2: z.number().min(0),
      R0,
    }),
    output: z.object({ reads: z.number(), error: z.number() }),
    run: ({ t, wires, r1, r2, R0: r0 }) => {
      const error = leadError_C(t, wires, r1, r2, r0)
      if (error === null) return refused('The thermometer is outside its range.', 't')
      return { reads: t + error, error }
    },
    example: { t: 64.2, wires: 2 as const, r1: 0.42, r2: 0.42 },
  }),
  calculation({
    name: 'temperature.thermocouple',
    title: 'Thermocouple with its cold junction',
    source: 'IEC 60584-1 reference functions, inverted on the function itself',
    input: z.strictObject({
      type: z.enum(THERMOCOUPLES),
      t: celsius.optional(),
      mV: z.number().optional(),
      t_cj: celsius.default(0),
    }),
    output: z.object({
      t: z.number(),
      E: z.number().describe('mV, reference junction at 0 °C'),
      E_cj: z.number(),
      tolerance1: z.number().nullable(),
      tolerance2: z.number().nullable(),
    }),
    run: ({ type, t, mV, t_cj }) => {
      if ((t === undefined) === (mV === undefined))
        return refused('Give the temperature or the voltage.', 't')
      const [from, to] = thermocoupleRange_C(type)
      const cold = thermocouple_mV(type, t_cj)
      if (cold === null) return refused(`Type ${type} is defined from ${from} to ${to} °C.`, 't_cj')
      const tolerances = (at: number) => ({
        tolerance1: thermocoupleTolerance_C(type, 1, at),
        tolerance2: thermocoupleTolerance_C(type, 2, at),
      })
      if (t !== undefined) {
        const E = thermocouple_mV(type, t)
        if (E === null) return refused(`Type ${type} is defined from ${from} to ${to} °C.`, 't')
        return { t, E, E_cj: cold, ...tolerances(t) }
      }
      const r = withColdJunction(type, mV ?? 0, t_cj)
      if (!r) return refused(`No temperature of type ${type} gives this voltage.`, 'mV')
      return { t: r.t_C, E: r.total_mV, E_cj: r.cold_mV, ...tolerances(r.t_C) }
    },
    example: { type: 'K' as const, mV: 33, t_cj: 35 },
  }),
  calculation({
    name: 'temperature.clampOn',
    title: 'Surface of a pipe against its fluid',
    source: 'Series of thermal resistances per metre; typical coefficients',
    input: z.strictObject({
      t_fluid: celsius,
      t_amb: celsius,
      d_i: z.number().positive(),
      d_o: z.number().positive(),
      k_w: z.number().positive().default(16),
      h_i: z.number().positive(),
      s: z.number().min(0).describe('m, insulation'),
      k_ins: z.number().positive().default(0.04),
      h_o: z.number().positive().default(10),
    }),
    output: z.object({ Ri: z.number(), Ro: z.number(), surface: z.number(), error: z.number() }),
    run: (x) => {
      if (x.d_o <= x.d_i) return refused('The outside diameter is not larger than the bore.', 'd_o')
      const r = surfaceTemperature({
        fluid_C: x.t_fluid,
        ambient_C: x.t_amb,
        bore_m: x.d_i,
        od_m: x.d_o,
        wall_W_mK: x.k_w,
        inside_W_m2K: x.h_i,
        insulation_m: x.s,
        insulation_W_mK: x.k_ins,
        outside_W_m2K: x.h_o,
      })
      return { Ri: r.inside_K_m_W, Ro: r.outside_K_m_W, surface: r.surface_C, error: r.error_C }
    },
    example: { t_fluid: 82, t_amb: 8, d_i: 0.1023, d_o: 0.1143, h_i: 1200, s: 0.025 },
  }),
  calculation({
    name: 'temperature.immersion',
    title: 'Head’s temperature that leaks into a well',
    source: '1 / cosh(m l), m = √(h P / (k A))',
    input: z.strictObject({
      h: z.number().positive(),
      P: z.number().positive().describe('m, perimeter'),
      k: z.number().positive(),
      A: z.number().positive().describe('m²'),
      l: z.number().min(0).describe('m'),
      t_fluid: celsius,
      t_head: celsius,
    }),
    output: z.object({ share: z.number(), t_tip: z.number() }),
    run: (x) => {
      const share = stemShare(x.h, x.P, x.k, x.A, x.l)
      return { share, t_tip: x.t_fluid + share * (x.t_head - x.t_fluid) }
    },
    example: { h: 500, P: 0.0377, k: 16, A: 8e-5, l: 0.1, t_fluid: 80, t_head: 20 },
  }),
]
