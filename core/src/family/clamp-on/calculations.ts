import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { isRefused, refused } from '../../refused.ts'
import { positive, some } from '../../quantity/described.ts'
import { keysOf } from '../../quantity/setting.ts'
import { adviseSensor, DISTURBANCES, straightRun, twoPaths } from './advice.ts'
import { measuredSoundSpeed_m_s, traceBeam, transitTimes } from './beam.ts'
import { meanFromPath } from './profile.ts'

const KNOWN = keysOf(DISTURBANCES).filter((d): d is Exclude<typeof d, 'none'> => d !== 'none')
const Traverses = z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)])
const Layer = z.strictObject({
  name: z.string().max(40),
  thickness: z.number().min(0).describe('mm'),
  cLong: positive('m/s'),
  cShear: z.number().positive().nullable().describe('m/s'),
})
const BeamInput = z.strictObject({
  wedge: z.strictObject({
    c: positive('m/s'),
    angle: z.number().min(1).max(89).describe('°'),
    height: z.number().min(0).describe('mm'),
  }),
  layers: z.array(Layer).max(6),
  id: positive('mm'),
  traverses: Traverses,
  c: positive('m/s'),
  tElectronic: z.number().default(0).describe('µs'),
})
function beamOf(b: z.output<typeof BeamInput>) {
  const beam = traceBeam({
    wedge: { c_m_s: b.wedge.c, angle_deg: b.wedge.angle, height_mm: b.wedge.height },
    layers: b.layers.map((l) => ({
      name: l.name,
      thickness_mm: l.thickness,
      cLong_m_s: l.cLong,
      cShear_m_s: l.cShear,
    })),
    id_mm: b.id,
    traverses: b.traverses,
    fluid_m_s: b.c,
    tElectronic_us: b.tElectronic,
  })
  return isRefused(beam) ? { ...beam, where: 'wedge.angle' } : beam
}
const EXAMPLE_BEAM = {
  wedge: { c: 2470, angle: 38, height: 18 },
  layers: [
    { name: 'wall', thickness: 9.53, cLong: 5900, cShear: 3230 },
    { name: 'liner', thickness: 8, cLong: 4200, cShear: 2500 },
  ],
  id: 574.94,
  traverses: 1 as const,
  c: 1504.857,
}

export const clampOnCalculations = [
  calculation({
    name: 'flow.clampOn',
    title: 'Clamp-on spacing and transit times',
    source: 'Snell through wedge, layers and fluid; plane wave',
    input: BeamInput.extend({ vPath: z.number().default(0).describe('m/s along the path') }),
    output: z.object({
      K: z.number(),
      fluidAngle: z.number(),
      spacing: z.number(),
      path: z.number(),
      tFixed: z.number(),
      tFluid: z.number(),
      tUp: z.number(),
      tDown: z.number(),
      dt: z.number(),
    }),
    run: (b) => {
      const beam = beamOf(b)
      if (isRefused(beam)) return beam
      const t = transitTimes(beam, b.c, b.vPath)
      return {
        K: beam.K_us_m,
        fluidAngle: beam.fluidAngle_deg,
        spacing: beam.spacing_mm,
        path: beam.path_mm,
        tFixed: beam.tFixed_us,
        tFluid: beam.tFluid_us,
        tUp: t.tUp_us,
        tDown: t.tDown_us,
        dt: t.dt_ns,
      }
    },
    example: { ...EXAMPLE_BEAM, vPath: 1.8 },
  }),
  calculation({
    name: 'flow.soundSpeed',
    title: 'Sound speed from a measured transit time',
    source: 'Inverse of the beam with the bore known',
    input: BeamInput.extend({ tMean: positive('µs') }),
    output: z.object({ c: z.number(), deviation: z.number(), verdict: z.enum(['OK', 'CHECK', 'FAULT']) }),
    run: (b) => {
      const beam = beamOf(b)
      if (isRefused(beam)) return beam
      const c = measuredSoundSpeed_m_s(beam, b.traverses, b.id, b.tMean)
      if (c === null)
        return refused(
          'No sound speed gives this time: it is shorter than the fixed part, or the bore is wrong.',
          'tMean',
        )
      const deviation = (c / b.c - 1) * 100
      const size = Math.abs(deviation)
      return {
        c,
        deviation,
        verdict: size <= 0.5 ? ('OK' as const) : size <= 2 ? ('CHECK' as const) : ('FAULT' as const),
      }
    },
    example: { ...EXAMPLE_BEAM, tMean: 448.9 },
  }),
  calculation({
    name: 'flow.profile',
    title: 'Mean velocity from the path’s',
    source: 'Power law with N = 1/√f, Colebrook',
    input: z.strictObject({
      vPath: some('m/s'),
      id: positive('mm'),
      nu: positive('m²/s'),
      roughness: z.number().min(0).default(0).describe('mm'),
    }),
    output: z.object({ k: z.number(), Re: z.number(), v: z.number(), flow: z.number().describe('m³/h') }),
    run: ({ vPath, id, nu, roughness }) => {
      const m = meanFromPath(vPath, id / 1000, nu, roughness / 1000)
      return { k: m.k_h, Re: m.Re, v: m.v_m_s, flow: m.v_m_s * (Math.PI / 4) * (id / 1000) ** 2 * 3600 }
    },
    example: { vPath: 1.8, id: 574.94, nu: 1.2139e-6 },
  }),
  calculation({
    name: 'flow.twoPaths',
    title: 'Two paths at right angles',
    source:
      'Mean, and the difference over it; above 5 % the profile is disturbed, above 15 % the flow uncertain',
    input: z.strictObject({ v1: some('m/s'), v2: some('m/s') }),
    output: z.object({
      v: z.number(),
      asymmetry: z.number().describe('%'),
      verdict: z.enum(['OK', 'WARN', 'UNCERTAIN']),
    }),
    run: ({ v1, v2 }) => {
      const p = twoPaths(v1, v2)
      return { v: p.mean_m_s, asymmetry: p.asymmetry_pct, verdict: p.verdict }
    },
    example: { v1: 7.62, v2: 8.11 },
  }),
  calculation({
    name: 'flow.straightRun',
    title: 'What a short straight run costs',
    source:
      'A·exp(−x/B) with half of the next one, and 1 % for a short run behind; typical, never a correction',
    input: z.strictObject({
      disturbances: z.array(z.enum(KNOWN)).max(6).describe('an empty list: none known'),
      upstream: z.number().min(0).describe('diameters'),
      downstream: z.number().min(0).default(5).describe('diameters'),
      fluid: z.enum(['liquid', 'gas']).default('liquid'),
      averaged: z.boolean().default(false).describe('two paths at 90°, or a reflect pair in both planes'),
    }),
    output: z.object({ wanted: z.number(), enough: z.boolean(), error: z.number().describe('%') }),
    run: (x) => {
      const r = straightRun(x.disturbances, x.upstream, x.downstream, x.fluid, x.averaged)
      return {
        wanted: r.wanted_D,
        enough: x.upstream >= r.wanted_D && x.downstream >= 5,
        error: r.error_pct,
      }
    },
    example: { disturbances: ['twoBends' as const], upstream: 12, downstream: 4 },
  }),
  calculation({
    name: 'flow.traverses',
    title: 'Traverses and sensor frequency',
    source: 'By bore, wall and fluid; typical, the supplier’s advice wins',
    input: z.strictObject({
      id: positive('mm'),
      wall: positive('mm'),
      fluid: z.enum(['liquid', 'gas']).default('liquid'),
      attenuating: z.boolean().default(false).describe('bubbles, solids, thick oil, mortar or a scaled wall'),
    }),
    output: z.object({
      traverses: z.number(),
      frequency: z.number().describe('MHz'),
      footprint: z.number().nullable().describe('mm'),
      says: z.string(),
    }),
    run: ({ id, wall, fluid, attenuating }) => {
      const a = adviseSensor(id, wall, fluid, attenuating)
      return a
        ? { traverses: a.traverses, frequency: a.frequency_MHz, footprint: a.footprint_mm, says: a.says }
        : refused('A bore of 50 mm or less is too small for gas from outside.', 'id')
    },
    example: { id: 574.94, wall: 9.53 },
  }),
]
