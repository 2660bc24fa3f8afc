import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { accuracy_pct, staticError_pct, turndown, TYPICAL_ACCURACY } from './accuracy.ts'
import {
  differentialAt_Pa,
  dpRange,
  GRAVITY_M_S2,
  indicatedLevel_m,
  interfaceAt_Pa,
  pressureAtTap_Pa,
} from './hydrostatic.ts'
import { judgeSequence, manifold, valvesOf, type ValveMove } from '../../manifold/manifold.ts'

const metre = z.number().describe('m')
const density = z.number().min(0).describe('kg/m³')
const gravity = z.number().positive().default(GRAVITY_M_S2).describe('m/s²')

export const pressureCalculations = [
  calculation({
    name: 'pressure.dpLevel',
    title: 'Range of a level by differential pressure',
    source: 'Hydrostatics; suppression and elevation by ANSI/ISA-51.1',
    input: z.strictObject({
      z_L: metre,
      z_U: metre,
      z_T: metre,
      z_0: metre,
      z_100: metre,
      rho: density,
      rho_g: density.default(0),
      f_H: density,
      f_L: density,
      z: metre.optional(),
      g: gravity,
    }),
    output: z.object({
      LRV: z.number().describe('kPa'),
      URV: z.number(),
      span: z.number(),
      shift: z.string(),
      DP: z.number().nullable(),
    }),
    run: (x) => {
      if (x.z_100 <= x.z_0) return refused('100 % must be above 0 %.', 'z_100')
      const d = {
        lowerTap_m: x.z_L,
        upperTap_m: x.z_U,
        transmitter_m: x.z_T,
        density: x.rho,
        vapourDensity: x.rho_g,
        highFill: x.f_H,
        lowFill: x.f_L,
        gravity: x.g,
      }
      const r = dpRange(d, x.z_0, x.z_100)
      return {
        LRV: r.lrv_Pa / 1000,
        URV: r.urv_Pa / 1000,
        span: r.span_Pa / 1000,
        shift: r.shift,
        DP: x.z === undefined ? null : differentialAt_Pa(d, x.z) / 1000,
      }
    },
    example: { z_L: 0.2, z_U: 3, z_T: -0.5, z_0: 0.2, z_100: 2.8, rho: 1180, f_H: 1000, f_L: 1000 },
  }),
  calculation({
    name: 'pressure.densityChange',
    title: 'Level read at another density',
    source: 'z_ind = z_L + (z − z_L) ρ/ρ_c',
    input: z.strictObject({ z_L: metre, z: metre, rho: density, rho_c: z.number().positive() }),
    output: z.object({ z_ind: z.number(), error: z.number() }),
    run: ({ z_L, z: level, rho, rho_c }) => {
      const z_ind = indicatedLevel_m(z_L, level, rho, rho_c)
      return { z_ind, error: z_ind - level }
    },
    example: { z_L: 0.2, z: 1.6, rho: 1205, rho_c: 1180 },
  }),
  calculation({
    name: 'pressure.interface',
    title: 'Interface of two liquids by differential pressure',
    source: 'Hydrostatics, vessel full above the upper tap',
    input: z.strictObject({
      z_L: metre,
      z_U: metre,
      rho_l: density,
      rho_u: density,
      f: density,
      z_0: metre.optional(),
      z_100: metre.optional(),
      z_i: metre,
      g: gravity,
    }),
    output: z.object({ LRV: z.number(), URV: z.number(), DP: z.number(), percent: z.number() }),
    run: (x) => {
      if (x.rho_l <= x.rho_u) return refused('The upper liquid must be the lighter one.', 'rho_u')
      const d = {
        lower: x.rho_l,
        upper: x.rho_u,
        fill: x.f,
        lowerTap_m: x.z_L,
        upperTap_m: x.z_U,
        gravity: x.g,
      }
      const kPa = (level: number) => interfaceAt_Pa(d, level) / 1000
      const [LRV, URV, DP] = [kPa(x.z_0 ?? x.z_L), kPa(x.z_100 ?? x.z_U), kPa(x.z_i)]
      return { LRV, URV, DP, percent: (100 * (DP - LRV)) / (URV - LRV) }
    },
    example: { z_L: 0, z_U: 2, rho_l: 1180, rho_u: 860, f: 960, z_i: 0.7 },
  }),
  calculation({
    name: 'pressure.head',
    title: 'Pressure at the tap through a filled line',
    source: 'p_tap = p_tx − ρ g (z_tap − z_tx)',
    input: z.strictObject({
      p: z.number().describe('kPa at the transmitter'),
      rho: density,
      dz: metre.describe('m, tap above the transmitter'),
      g: gravity,
    }),
    output: z.object({ p_tap: z.number() }),
    run: ({ p, rho, dz, g }) => ({ p_tap: pressureAtTap_Pa(p * 1000, rho, dz, g) / 1000 }),
    example: { p: 605, rho: 1025, dz: 3.2 },
  }),
  calculation({
    name: 'pressure.accuracy',
    title: 'Turndown, accuracy and static pressure',
    source: 'Data-sheet forms a | b + c·TD and % of URL per line pressure; typical numbers',
    input: z.strictObject({
      URL: z.number().positive(),
      span: z.number(),
      a: z.number().min(0).default(TYPICAL_ACCURACY.a),
      b: z.number().min(0).default(TYPICAL_ACCURACY.b),
      c: z.number().min(0).default(TYPICAL_ACCURACY.c),
      TD_0: z.number().positive().default(TYPICAL_ACCURACY.td0),
      p_line: z.number().min(0).default(0),
      p_ref: z.number().positive().default(70),
      z_pct: z.number().min(0).default(0.05),
    }),
    output: z.object({
      TD: z.number(),
      accuracy: z.number(),
      accuracyEU: z.number(),
      staticZero: z.number(),
    }),
    run: (x) => {
      if (x.span === 0) return refused('The range has no span.', 'span')
      const TD = turndown(x.URL, x.span)
      const accuracy = accuracy_pct({ a: x.a, b: x.b, c: x.c, td0: x.TD_0 }, TD)
      return {
        TD,
        accuracy,
        accuracyEU: (accuracy * Math.abs(x.span)) / 100,
        staticZero: staticError_pct(x.z_pct, x.p_line, x.p_ref, x.URL, x.span),
      }
    },
    example: { URL: 160, span: 8, p_line: 12 },
  }),
  calculation({
    name: 'pressure.manifold',
    title: 'Order of a manifold’s valves',
    source: 'Three rules tested after every move: through flow, vent to process, one-sided pressure',
    input: z.strictObject({
      kind: z.enum(['three-valve', 'five-valve']),
      start: z.enum(['in service', 'isolated']).default('in service'),
      moves: z.array(z.tuple([z.enum(['open', 'close']), z.string().max(2)])).max(100),
    }),
    output: z.object({
      rule: z.string().nullable(),
      index: z.number().nullable(),
      open: z.array(z.string()),
      pressurised: z.array(z.string()),
    }),
    run: ({ kind, start, moves }) => {
      const known = valvesOf(kind)
      const strange = moves.findIndex(([, valve]) => !known.includes(valve))
      const valve = moves[strange]?.[1]
      if (valve !== undefined)
        return refused(`This manifold has no valve ${valve}; it has ${known.join(', ')}.`, `moves.${strange}`)
      const list = moves.map(([to, v]): ValveMove => ({ to, valve: v }))
      const v = judgeSequence(manifold(kind, start), list)
      return { rule: v.rule, index: v.at, open: [...v.end.open], pressurised: [...v.end.pressurised] }
    },
    example: { kind: 'three-valve' as const, moves: [['open', 'E']] as ['open', string][] },
  }),
]
