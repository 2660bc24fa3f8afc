import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { currentOfFraction } from '../../signal/current-range.ts'
import { checkProbe, layerThickness_m, levelFromProbeEnd, readProbe } from '../guided-wave/probe.ts'
import { fullInBlocking } from './blocking-distance.ts'
import { pointsOfMode, readEcho } from './echo.ts'
import {
  beamAngle_deg,
  entersBeamAt_m,
  footprint_m,
  gasPermittivity,
  reflection,
  trueRadarDistance_m,
} from './radar.ts'
import { airSoundSpeed_m_s, temperatureError } from './sound-in-air.ts'

const metre = z.number().describe('m')

export const levelCalculations = [
  calculation({
    name: 'level.fromAbove',
    title: 'Level, percent and current of an echo',
    source: 'Distances downwards from the reference plane; NAMUR NE 43 limits',
    input: z.strictObject({
      E: metre.describe('m, empty distance'),
      F: metre.describe('m, full distance'),
      o: metre.default(0).describe('m, sensor face above the reference'),
      B: z.number().min(0).default(0).describe('m, dead zone from the face'),
      d_face: metre,
      mode: z.enum(['level', 'distance']).default('level'),
    }),
    output: z.object({
      d: z.number(),
      L: z.number(),
      percent: z.number(),
      space_to_full: z.number(),
      mA: z.number(),
      in_blocking: z.boolean(),
      full_in_blocking: z.boolean(),
    }),
    run: ({ E, F, o, B, d_face, mode }) => {
      if (E <= F) return refused('The full distance must be smaller than the empty distance.', 'F')
      const setUp = { empty_m: E, full_m: F, offset_m: o, blocking_m: B, ...pointsOfMode(E, F, mode) }
      const r = readEcho(setUp, d_face)
      return {
        d: r.distance_m,
        L: r.level_m,
        percent: r.percent,
        space_to_full: r.spaceToFull_m,
        mA: r.current_mA,
        in_blocking: r.inBlocking,
        full_in_blocking: fullInBlocking(setUp),
      }
    },
    example: { E: 5.2, F: 0.7, o: 0.15, B: 0.45, d_face: 3.105 },
  }),
  calculation({
    name: 'level.gasTemperature',
    title: 'What a wrong gas temperature does to an ultrasonic level',
    source: 'Sound in air, ISO 9613-1',
    input: z.strictObject({ d: metre, t_set: z.number().gt(-273.15), t_true: z.number().gt(-273.15) }),
    output: z.object({
      c_set: z.number(),
      c_true: z.number(),
      d_indicated: z.number(),
      level_error: z.number(),
    }),
    run: ({ d, t_set, t_true }) => {
      const e = temperatureError(d, t_set, t_true)
      return {
        c_set: airSoundSpeed_m_s(t_set),
        c_true: airSoundSpeed_m_s(t_true),
        d_indicated: e.indicated_m,
        level_error: e.levelError_m,
      }
    },
    example: { d: 4.2, t_set: 20, t_true: 35 },
  }),
  calculation({
    name: 'level.radar',
    title: 'Radar: reflection, beam, footprint, gas',
    source: 'Fresnel at normal incidence; beam 70° λ/D, typical',
    input: z.strictObject({
      eps1: z.number().min(1).default(1),
      eps2: z.number().min(1),
      beam: z.number().positive().max(90).optional().describe('degrees, or from frequency and antenna'),
      frequency: z.number().positive().optional().describe('GHz'),
      antenna: z.number().positive().optional().describe('m'),
      d: metre.default(1),
      w: z.number().positive().default(0.5).describe('m, obstacle from the axis'),
      p: z.number().positive().default(101.325).describe('kPa absolute'),
      t: z.number().gt(-273.15).default(20),
    }),
    output: z.object({
      power: z.number().describe('%'),
      dB: z.number().nullable(),
      beam: z.number(),
      footprint: z.number(),
      enters: z.number(),
      trueDistance: z.number(),
    }),
    run: (x) => {
      const beam = x.beam ?? (x.frequency && x.antenna ? beamAngle_deg(x.frequency, x.antenna) : undefined)
      if (beam === undefined) return refused('Give the beam, or the frequency and the antenna.', 'beam')
      const r = reflection(x.eps1, x.eps2)
      return {
        power: r.power * 100,
        dB: r.power === 0 ? null : r.dB,
        beam,
        footprint: footprint_m(x.d, beam),
        enters: entersBeamAt_m(x.w, beam),
        trueDistance: trueRadarDistance_m(x.d, gasPermittivity(x.p, x.t)),
      }
    },
    example: { eps2: 1.9, beam: 8, d: 6.5, w: 0.4 },
  }),
  calculation({
    name: 'level.guidedWave',
    title: 'Guided wave: points, dead zones, reading',
    source: 'Distances from the reference plane; flags in the order of the rule',
    input: z.strictObject({
      Lp: z.number().positive().describe('m, probe'),
      Z_t: z.number().min(0).describe('m, upper dead zone'),
      Z_b: z.number().min(0).describe('m, lower dead zone'),
      d4: metre.optional(),
      d20: metre.optional(),
      d: metre.optional(),
    }),
    output: z.object({
      span: z.number(),
      d_min: z.number(),
      d_max: z.number(),
      max_span: z.number(),
      flags: z.array(z.string()),
      reach_high: z.number().nullable(),
      reach_low: z.number().nullable(),
      reach_high_mA: z.number().nullable(),
      percent: z.number().nullable(),
      mA: z.number().nullable(),
    }),
    run: ({ Lp, Z_t, Z_b, d4, d20, d }) => {
      const p = {
        probe_m: Lp,
        topDead_m: Z_t,
        bottomDead_m: Z_b,
        at4_m: d4 ?? Lp - Z_b,
        at20_m: d20 ?? Z_t,
      }
      const c = checkProbe(p)
      const read = d === undefined || c.reachHigh_pct === null ? null : readProbe(p, d)
      return {
        span: c.span_m,
        d_min: c.nearest_m,
        d_max: c.farthest_m,
        max_span: c.maxSpan_m,
        flags: [...c.flags],
        reach_high: c.reachHigh_pct,
        reach_low: c.reachLow_pct,
        reach_high_mA: c.reachHigh_pct === null ? null : currentOfFraction(c.reachHigh_pct / 100),
        percent: read?.percent ?? null,
        mA: read?.current_mA ?? null,
      }
    },
    example: { Lp: 2.4, Z_t: 0.12, Z_b: 0.08, d4: 2.32, d20: 0.12, d: 1.47 },
  }),
  calculation({
    name: 'level.probeEnd',
    title: 'Level by the echo of the probe’s end',
    source: 'Apparent end (Lp − h) + h √ε',
    input: z.strictObject({ Lp: z.number().positive(), Le: z.number().positive(), eps: z.number().gt(1) }),
    output: z.object({ h: z.number(), surface: z.number() }),
    run: ({ Lp, Le, eps }) => {
      const r = levelFromProbeEnd(Lp, Le, eps)
      if (r.height_m < 0 || r.height_m > Lp)
        return refused(`The end can appear between ${Lp} and ${(Lp * Math.sqrt(eps)).toFixed(3)} m.`, 'Le')
      return { h: r.height_m, surface: r.surface_m }
    },
    example: { Lp: 2.4, Le: 3.052, eps: 2.1 },
  }),
  calculation({
    name: 'level.layer',
    title: 'Thickness of an upper layer',
    source: '(apparent interface − surface) / √ε',
    input: z.strictObject({ d_interface: metre, d_surface: metre, eps_u: z.number().min(1) }),
    output: z.object({ thickness: z.number() }),
    run: ({ d_interface, d_surface, eps_u }) => ({
      thickness: layerThickness_m(d_interface, d_surface, eps_u),
    }),
    example: { d_interface: 1.6, d_surface: 1, eps_u: 2.3 },
  }),
]
