import { z } from 'zod'
import { calculation, Refusal } from '../calculation.ts'
import { measuredSoundSpeed_m_s, traceBeam, transitTimes } from './clamp-on/beam.ts'
import { meanFromPath } from './clamp-on/profile.ts'
import { pulses } from './coriolis/accuracy.ts'
import { compareTyped, splitFactor } from './coriolis/factor-string.ts'
import { density, massFlow_g_s } from './coriolis/flow-and-density.ts'
import {
  compareFlow,
  drawDownUncertainty_pct,
  horizontalVolume_m3,
  timedCatch,
  verticalVolume_m3,
} from './flow-check/flow-check.ts'
import { orificeFlow } from './orifice/orifice.ts'
import { insertion, meanFactor } from './thermal/insertion.ts'
import { nozzleFlow, oxygenAfter_pct } from './thermal/nozzle.ts'

const positive = (unit: string) => z.number().positive(`Above 0 ${unit}.`).describe(unit)
const some = (unit: string) => z.number().describe(unit)
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
  const r = traceBeam({
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
  if (r.kind === 'noBeam') throw new Refusal('wedge.angle', r.says)
  return r.beam
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

const METER = {
  meter: z.number().nullable().default(null).describe('the meter’s flow, m³/h; empty: not compared'),
  uMeter: z.number().min(0).default(0).describe('expanded uncertainty of the meter, %'),
}
const Compared = { error: z.number().nullable(), En: z.number().nullable(), agrees: z.boolean().nullable() }
/** A meter's reading beside a reference's, where one was given. */
function compared(meter: number | null, reference: number, uMeter: number, uReference: number) {
  if (meter === null) return { error: null, En: null, agrees: null }
  const c = compareFlow(meter, reference, uMeter, uReference)
  return { error: c.error_pct, En: c.En, agrees: c.agrees }
}

export const instrumentCalculations = [
  calculation({
    name: 'flow.reference',
    title: 'Meter against a portable reference',
    source: 'Normalised error: agree when |En| ≤ 1, both uncertainties expanded (k = 2)',
    input: z.strictObject({
      meter: z.number(),
      reference: z.number(),
      uMeter: z.number().min(0).describe('expanded, %'),
      uReference: z.number().min(0).describe('expanded, %'),
    }),
    output: z.object(Compared),
    run: ({ meter, reference, uMeter, uReference }) => {
      if (reference === 0) throw new Refusal('reference', 'A reference flow of 0 gives no error in percent.')
      return compared(meter, reference, uMeter, uReference)
    },
    example: { meter: 36.42, reference: 36.15, uMeter: 0.6, uReference: 0.5 },
  }),
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
      const c = measuredSoundSpeed_m_s(beamOf(b), b.traverses, b.id, b.tMean)
      if (c === null)
        throw new Refusal(
          'tMean',
          'No sound speed gives this time: it is shorter than the fixed part, or the bore is wrong.',
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
    name: 'flow.coriolis',
    title: 'Coriolis mass flow and density from raw signals',
    source: 'Two-point density; the certificate’s own equation wins',
    input: z.strictObject({
      factor: z.string().max(20).describe('combined, 31.8425.08'),
      dt: some('µs'),
      zero: some('µs'),
      t: some('°C'),
      K1: positive('µs'),
      K2: positive('µs'),
      D1: z.number(),
      D2: z.number(),
      DT: z.number(),
      FD: z.number().default(0),
      tau: positive('µs'),
    }),
    output: z.object({ massFlow: z.number().describe('g/s'), density: z.number() }),
    run: (x) => {
      const f = splitFactor(x.factor)
      if (f.kind === 'refused') throw new Refusal('factor', f.says)
      if (x.K1 === x.K2) throw new Refusal('K2', 'K1 and K2 are the same period.')
      return {
        massFlow: massFlow_g_s({ F: f.F, kF: f.kF, zero_us: x.zero, tRef_C: 0 }, x.dt, x.t),
        density: density(
          { K1_us: x.K1, K2_us: x.K2, D1: x.D1, D2: x.D2, kD: x.DT, kf: x.FD, tRef_C: 0 },
          x.tau,
          x.t,
          x.dt - x.zero,
        ),
      }
    },
    example: {
      factor: '31.8425.08',
      dt: 118.734,
      zero: 0.0127,
      t: 37.6,
      K1: 8243.517,
      K2: 9766.284,
      D1: 0.0012,
      D2: 0.9982,
      DT: 4.44,
      tau: 10012.35,
    },
  }),
  calculation({
    name: 'flow.compare',
    title: 'A typed value against the certificate',
    source: 'Digit by digit, first match',
    input: z.strictObject({ certificate: z.string().min(1).max(20), typed: z.string().min(1).max(20) }),
    output: z.object({ slip: z.string(), power: z.number().nullable() }),
    run: ({ certificate, typed }) => compareTyped(certificate, typed),
    example: { certificate: '31.842', typed: '38.142' },
  }),
  calculation({
    name: 'flow.pulses',
    title: 'Frequency and pulse factor',
    source: 'f = q Ff/Rf',
    input: z.strictObject({
      frequency: positive('Hz'),
      rate: positive('per hour'),
      flow: some('per hour'),
      limit: positive('Hz').default(10_000),
      width: positive('ms').default(0.05),
    }),
    output: z.object({
      frequency: z.number(),
      pulsesPerUnit: z.number(),
      unitsPerPulse: z.number(),
      topOk: z.boolean(),
      widthOk: z.boolean(),
    }),
    run: (x) => {
      const p = pulses(
        { frequency_Hz: x.frequency, rate_perHour: x.rate, limit_Hz: x.limit, width_ms: x.width },
        x.flow,
      )
      return {
        frequency: p.frequency_Hz,
        pulsesPerUnit: p.pulsesPerUnit,
        unitsPerPulse: p.unitsPerPulse,
        topOk: p.topOk,
        widthOk: p.widthOk,
      }
    },
    example: { frequency: 8000, rate: 20_000, flow: 13_600 },
  }),
  calculation({
    name: 'flow.insertion',
    title: 'Insertion probe: mark, force, profile',
    source: 'U = H + wall + ID/2 + e; F = p π d²/4; power law N = 7 unless given',
    input: z.strictObject({
      stack: positive('mm'),
      wall: positive('mm'),
      id: positive('mm'),
      tip: z.number().min(0).default(0),
      stem: positive('mm'),
      gauge: z.number().describe('kPa gauge'),
      n: positive('').default(7),
    }),
    output: z.object({
      mark: z.number(),
      force: z.number(),
      retractor: z.boolean(),
      blockage: z.number(),
      meanFactor: z.number(),
    }),
    run: (x) => {
      const i = insertion({
        stack_mm: x.stack,
        wall_mm: x.wall,
        id_mm: x.id,
        tip_mm: x.tip,
        stem_mm: x.stem,
        probe_mm: null,
        gauge_kPa: x.gauge,
      })
      if (i.refused) throw new Refusal('id', i.refused)
      return {
        mark: i.mark_mm,
        force: i.force_N,
        retractor: i.needsRetractor,
        blockage: i.blockage,
        meanFactor: meanFactor(x.n).F,
      }
    },
    example: { stack: 312, wall: 9.27, id: 254.46, tip: 12, stem: 19.05, gauge: 720 },
  }),
  calculation({
    name: 'flow.nozzle',
    title: 'Nitrogen through a sonic nozzle',
    source: 'ISO 9300; real nitrogen',
    input: z.strictObject({
      throat: positive('mm'),
      p0: positive('kPa absolute'),
      t0: some('°C'),
      after: z.number().min(0).describe('kPa absolute'),
      Cd: z.number().positive().nullable().default(null),
    }),
    output: z.object({
      massFlow: z.number().describe('g/s'),
      kgPerHour: z.number(),
      Cd: z.number(),
      Cstar: z.number(),
      Re: z.number(),
      choked: z.boolean(),
    }),
    run: (x) => {
      const n = nozzleFlow(x.throat, x.p0, x.t0, x.after, x.Cd)
      if (!n)
        throw new Refusal('p0', 'The table of nitrogen reaches from 100 to 5000 kPa and from 0 to 40 °C.')
      return {
        massFlow: n.massFlow_g_s,
        kgPerHour: n.massFlow_g_s * 3.6,
        Cd: n.Cd,
        Cstar: n.Cstar,
        Re: n.Re,
        choked: n.choked,
      }
    },
    example: { throat: 3.2, p0: 705, t0: 22, after: 118 },
  }),
  calculation({
    name: 'flow.oxygen',
    title: 'Oxygen in a room after venting nitrogen',
    source: 'Well-mixed room without ventilation; wear an oxygen meter',
    input: z.strictObject({ room: positive('m³'), release: positive('m³/h'), minutes: positive('min') }),
    output: z.object({ oxygen: z.number().describe('%'), leave: z.boolean() }),
    run: ({ room, release, minutes }) => {
      const oxygen = oxygenAfter_pct(room, release, minutes)
      return { oxygen, leave: oxygen < 19.5 }
    },
    example: { room: 42, release: 55, minutes: 15 },
  }),
  calculation({
    name: 'flow.orifice',
    title: 'Flow through an orifice',
    source: 'ISO 5167-2',
    input: z.strictObject({
      D: positive('mm'),
      d: positive('mm'),
      taps: z.enum(['corner', 'flange', 'D-D/2']),
      density: positive('kg/m³'),
      viscosity: positive('Pa·s'),
      dp: positive('kPa'),
      gas: z
        .strictObject({ p1: positive('kPa absolute'), kappa: positive('') })
        .nullable()
        .default(null),
    }),
    output: z.object({
      beta: z.number(),
      C: z.number(),
      epsilon: z.number(),
      Re: z.number(),
      massFlow: z.number(),
      volumeFlow: z.number(),
      loss: z.number(),
      uncertainty: z.number(),
      outside: z.array(z.string()),
    }),
    run: (x) => {
      if (x.d >= x.D)
        throw new Refusal('d', `The bore of ${x.d} mm is not smaller than the pipe of ${x.D} mm.`)
      if (x.gas && x.dp >= x.gas.p1)
        throw new Refusal('dp', 'The differential is not below the upstream pressure.')
      const o = orificeFlow({
        D: x.D / 1000,
        d: x.d / 1000,
        taps: x.taps,
        density_kg_m3: x.density,
        viscosity_Pa_s: x.viscosity,
        dp_Pa: x.dp * 1000,
        gas: x.gas ? { p1_Pa: x.gas.p1 * 1000, kappa: x.gas.kappa } : null,
      })
      return {
        beta: o.beta,
        C: o.C,
        epsilon: o.epsilon,
        Re: o.Re,
        massFlow: o.massFlow_kg_s,
        volumeFlow: (o.massFlow_kg_s / x.density) * 3600,
        loss: o.permanentLoss_Pa / 1000,
        uncertainty: o.uncertainty_pct,
        outside: [...o.outside],
      }
    },
    example: {
      D: 102.26,
      d: 61,
      taps: 'flange' as const,
      density: 995.4875,
      viscosity: 0.000780535,
      dp: 18.7,
    },
  }),
  calculation({
    name: 'flow.bucket',
    title: 'Timed catch on a scale',
    source: 'Air buoyancy corrected; U = 2u',
    input: z.strictObject({
      indicated: positive('kg'),
      seconds: positive('s'),
      density: positive('kg/m³'),
      air: z.number().min(0).default(1.2),
      uMass: z.number().min(0).default(0),
      halfTime: z.number().min(0).default(0.2),
      uDensity: z.number().min(0).default(0).describe('%'),
      ...METER,
    }),
    output: z.object({
      mass: z.number(),
      flow: z.number().describe('m³/h'),
      u: z.number(),
      U: z.number(),
      ...Compared,
    }),
    run: (x) => {
      const c = timedCatch({
        indicated_kg: x.indicated,
        seconds: x.seconds,
        density_kg_m3: x.density,
        air_kg_m3: x.air,
        uMass_kg: x.uMass,
        halfTime_s: x.halfTime,
        uDensity_pct: x.uDensity,
      })
      return {
        mass: c.mass_kg,
        flow: c.flow_m3_h,
        u: c.u_pct,
        U: c.U_pct,
        ...compared(x.meter, c.flow_m3_h, x.uMeter, c.U_pct),
      }
    },
    example: { indicated: 182.46, seconds: 60.35, density: 997.3, air: 1.19, uMass: 0.02, uDensity: 0.03 },
  }),
  calculation({
    name: 'flow.tank',
    title: 'Flow from a tank’s draw-down',
    source: 'Vertical or horizontal cylinder, flat ends',
    input: z.strictObject({
      diameter: positive('m'),
      length: z.number().positive().nullable().default(null).describe('m; horizontal tank'),
      from: z.number().min(0).describe('m'),
      to: z.number().min(0).describe('m'),
      seconds: positive('s'),
      uDiameter: z.number().min(0).default(0).describe('standard uncertainty, m'),
      uLevel: z.number().min(0).default(0).describe('standard uncertainty of each level, m'),
      ...METER,
    }),
    output: z.object({
      volume: z.number(),
      flow: z.number().describe('m³/h'),
      u: z.number(),
      U: z.number(),
      ...Compared,
    }),
    run: ({ diameter, length, from, to, seconds, uDiameter, uLevel, meter, uMeter }) => {
      if (from === to) throw new Refusal('to', 'Both levels are the same: nothing was drawn down.')
      if (length !== null && Math.max(from, to) > diameter)
        throw new Refusal('from', `A level above the tank’s ${diameter} m is not in it.`)
      const volume =
        length === null
          ? verticalVolume_m3(diameter, from, to)
          : Math.abs(horizontalVolume_m3(diameter, length, from) - horizontalVolume_m3(diameter, length, to))
      const flow = (volume / seconds) * 3600
      const u = drawDownUncertainty_pct(diameter, uDiameter, Math.abs(from - to), uLevel)
      return { volume, flow, u, U: 2 * u, ...compared(meter, flow, uMeter, 2 * u) }
    },
    example: { diameter: 4.2, from: 3.142, to: 2.6865, seconds: 1105 },
  }),
]
