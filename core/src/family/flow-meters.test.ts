import { describe, expect, test } from 'vitest'
import { AIR, Gas } from '../media/gas.ts'
import { seawater } from '../media/seawater.ts'
import { water, waterSoundSpeed_m_s } from '../media/water.ts'
import { adviseSensor, faceLoss, straightRun, twoPaths } from './clamp-on/advice.ts'
import {
  measuredSoundSpeed_m_s,
  pathVelocity_m_s,
  traceBeam,
  transitTimes,
  type BeamInput,
} from './clamp-on/beam.ts'
import { isRefused } from '../refused.ts'
import { meanFromPath, pathFromMean, profileFactor } from './clamp-on/profile.ts'
import { judgeSoundSpeed, temperaturesFor } from './clamp-on/sound-speed-verdict.ts'
import { cutoff, errorAt_pct, kneeFlow, pulses } from './coriolis/accuracy.ts'
import { compareTyped, splitText } from './coriolis/keying.ts'
import { density, massFlow_g_s } from './coriolis/flow-and-density.ts'
import { plausible, type Characterization } from './coriolis/plausible.ts'
import { compareFlow, horizontalVolume_m3, timedCatch, verticalVolume_m3 } from '../verify/flow-check.ts'
import { orificeFlow } from './orifice/orifice.ts'
import { insertion, meanFactor } from './thermal/insertion.ts'
import {
  criticalFlowFunction,
  driftOf,
  minutesToLeave,
  nozzleFlow,
  nozzleVerdict,
  oxygenAfter_pct,
  oxygenSteady_pct,
} from './thermal/nozzle.ts'

const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )
const beamOf = (b: BeamInput) => {
  const beam = traceBeam(b)
  if (isRefused(beam)) throw new Error(beam.says)
  return beam
}

/** FT-101: lined steel main, one direct traverse. */
const MAIN: BeamInput = {
  wedge: { c_m_s: 2470, angle_deg: 38, height_mm: 18 },
  layers: [
    { name: 'wall', thickness_mm: 9.53, cLong_m_s: 5900, cShear_m_s: 3230 },
    { name: 'liner', thickness_mm: 8, cLong_m_s: 4200, cShear_m_s: 2500 },
  ],
  id_mm: 574.94,
  traverses: 1,
  fluid_m_s: seawater(35.1, 14.2, 3.8).soundSpeed_m_s,
  tElectronic_us: 0,
}
const PERMEATE = water(24, 0.6)
/** FT-203: small stainless, four traverses. */
const SMALL: BeamInput = {
  wedge: { c_m_s: 2500, angle_deg: 40, height_mm: 10 },
  layers: [{ name: 'wall', thickness_mm: 2.77, cLong_m_s: 5740, cShear_m_s: 3090 }],
  id_mm: 42.76,
  traverses: 4,
  fluid_m_s: PERMEATE.soundSpeed_m_s,
  tElectronic_us: 0,
}

describe('clamp-on', () => {
  test('W08 the beam of FT-101, there and back', () => {
    const b = beamOf(MAIN)
    near(b.K_us_m, 249.256, 3e-6)
    near(b.layers[0]?.angle_deg ?? 0, 53.6195)
    near(b.layers[1]?.angle_deg ?? 0, 38.5457)
    expect(b.layers.map((l) => l.wave)).toEqual(['shear', 'shear'])
    near(b.fluidAngle_deg, 22.0301)
    near(b.path_mm, 620.225)
    near(b.tFixed_us, 36.6273)
    near(b.tFluid_us, 412.1485)
    near(b.spacing_mm, 271.261)
    const t = transitTimes(b, MAIN.fluid_m_s, 1.8)
    near(t.tUp_us, 448.960876, 1e-7)
    near(t.tDown_us, 448.591047, 1e-7)
    near(t.dt_ns, 369.829)
    near(pathVelocity_m_s(b, t.tUp_us, t.tDown_us), 1.8, 1e-9)
    const sea = seawater(35.1, 14.2, 3.8)
    const mean = meanFromPath(1.8, 0.57494, sea.viscosity_Pa_s / sea.density_kg_m3, 0)
    near(mean.k_h, 0.947904)
    near(mean.Re, 808121)
    near(mean.v_m_s, 1.70623)
  })
  test('W09 four traverses of FT-203', () => {
    const b = beamOf(SMALL)
    const v = 6 / 3600 / 0.00143604
    const nu = PERMEATE.viscosity_Pa_s / PERMEATE.density_kg_m3
    const p = pathFromMean(v, 0.04276, nu, 0)
    near(p.Re, 54364.8)
    near(p.k_h, 0.933184)
    near(p.vPath_m_s, 1.2437)
    near(b.fluidAngle_deg, 22.6033)
    near(b.spacing_mm, 78.4563)
    near(b.tFluid_us, 123.9397)
    near(b.tFixed_us, 13.3956)
    near(transitTimes(b, SMALL.fluid_m_s, p.vPath_m_s).dt_ns, 79.2655)
  })
  const profiles: readonly [Re: number, rough: number, k: number][] = [
    [1850, 0, 0.75],
    [3150, 0, 0.829594],
    [82_000, 0, 0.935909],
    [1.1e6, 0.0002, 0.943014],
  ]
  test.each(profiles)('W10 profile factor at Re %d, ε/D %d', (Re, rough, k) =>
    near(profileFactor(Re, rough), k, 2e-6),
  )
  test('W11 a sound speed that is off, with what would explain it', () => {
    const b = beamOf(SMALL)
    const measured = measuredSoundSpeed_m_s(b, 4, 42.76, 139.2352) ?? 0
    near(measured, 1467.708, 1e-6)
    const temperatures_C = temperaturesFor((t) => waterSoundSpeed_m_s(t, 0.6), measured, 0, 100)
    const j = judgeSoundSpeed({
      beam: b,
      id_mm: 42.76,
      theory_m_s: PERMEATE.soundSpeed_m_s,
      measured_m_s: measured,
      tMeasured_us: 139.2352,
      temperatures_C,
    })
    near(j.deviation_pct, -1.8155, 3e-5)
    expect(j.verdict).toBe('CHECK')
    near(j.temperatures_C[0] ?? 0, 15.267, 3e-5)
    near(j.id_mm, 43.4155, 2e-6)
    // The printed time has four decimals: 0.05 ns of it are 0.2 µm here.
    near(j.spacingError_mm, 7.3897, 3e-5)
  })
  test('one speed near the top of water’s curve belongs to two temperatures', () => {
    expect(temperaturesFor((t) => waterSoundSpeed_m_s(t, 0.2), 1550, 0, 100)).toHaveLength(2)
  })
  test('past the critical angle there is no beam, and the layer is named', () => {
    const steep = traceBeam({ ...MAIN, wedge: { ...MAIN.wedge, angle_deg: 70 } })
    expect(steep).toMatchObject({ code: 'NO_BEAM', where: 'wall' })
    const soft = traceBeam({
      ...MAIN,
      layers: [{ name: 'liner', thickness_mm: 5, cLong_m_s: 4200, cShear_m_s: null }],
    })
    expect(soft).toMatchObject({ code: 'NO_BEAM', where: 'liner' })
  })
  test('W14 why gas needs pressure', () => {
    const gas = new Gas({
      methane: 0.9145,
      ethane: 0.0432,
      propane: 0.0108,
      n_butane: 0.0029,
      isobutane: 0.0021,
      nitrogen: 0.014,
      carbon_dioxide: 0.0125,
    })
    const rows: [number, number, number][] = [
      [101.325, 309.86, -86.217],
      [700, 2155.6, -69.371],
      [840, 2591.0, -67.773],
    ]
    for (const [p, Z, dB] of rows) {
      const s = gas.state(294.15, p)
      const loss = faceLoss(7850 * 3230, s?.density_kg_m3 ?? 0, s?.soundSpeed_m_s ?? 0)
      near(loss.impedance, Z, 3e-5)
      near(loss.dB, dB)
    }
  })
  test('W15 two paths', () => {
    const p = twoPaths(7.62, 8.11)
    near(p.asymmetry_pct, -6.2301)
    expect(p.verdict).toBe('WARN')
  })
  test('sensor advice by bore, wall and fluid', () => {
    expect(adviseSensor(575, 9.5, 'liquid', false)).toMatchObject({ traverses: 1, frequency_MHz: 0.5 })
    expect(adviseSensor(42.8, 2.8, 'liquid', false)).toMatchObject({ traverses: 4, frequency_MHz: 4 })
    expect(adviseSensor(42.8, 9, 'liquid', false)?.frequency_MHz).toBe(2)
    expect(adviseSensor(150, 7, 'liquid', true)).toMatchObject({ traverses: 1, frequency_MHz: 0.5 })
    expect(adviseSensor(40, 3, 'gas', false)).toBeNull()
  })
  test('a short straight run costs, more of it costs less, averaging halves', () => {
    const near10 = straightRun(['bend'], 10, 5, 'liquid', false)
    expect(near10.error_pct).toBeCloseTo(8 * Math.exp(-10 / 9), 12)
    expect(straightRun(['bend'], 20, 5, 'liquid', false).error_pct).toBeLessThan(near10.error_pct)
    expect(straightRun(['bend'], 10, 5, 'liquid', true).error_pct).toBeCloseTo(near10.error_pct / 2, 12)
    expect(straightRun(['pump', 'bend'], 10, 2.5, 'liquid', false).error_pct).toBeCloseTo(
      16 * Math.exp(-10 / 18) + 4 * Math.exp(-10 / 9) + 0.5,
      12,
    )
    expect(straightRun(['bend'], 10, 5, 'gas', false).wanted_D).toBe(20)
  })
})

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

describe('thermal insertion', () => {
  const probe = {
    stack_mm: 312,
    wall_mm: 9.27,
    id_mm: 254.46,
    tip_mm: 12,
    stem_mm: 19.05,
    probe_mm: null,
    gauge_kPa: 720,
  }
  test('W19 depth mark, blockage, force and flow', () => {
    const i = insertion(probe)
    near(i.mark_mm, 460.5)
    near(i.blockage, 0.947845)
    near(i.force_N, 205.217)
    expect(i.needsRetractor).toBe(true)
    near(insertion({ ...probe, gauge_kPa: 340 }).force_N, 96.908)
    const m = meanFactor(7)
    near(m.F, 0.816667)
    near(m.meanDepth, 0.12114, 4e-5)
    near(14.2 * m.F * i.blockage * (Math.PI / 4) * 0.25446 ** 2 * 3600, 2012.34)
  })
  test('a probe that does not reach, and a tip that would touch, are refused', () => {
    expect(insertion({ ...probe, probe_mm: 470 }).refused).toMatch(/does not reach/)
    expect(insertion({ ...probe, id_mm: 40, tip_mm: 15 }).refused).toMatch(/far wall/)
  })
  test('W20 nitrogen through the nozzle', () => {
    const n = nozzleFlow(3.2, 705, 22, 118, null)
    near(n?.Cstar ?? 0, 0.686492, 2e-6)
    near(n?.Re ?? 0, 293417)
    near(n?.Cd ?? 0, 0.990879, 2e-6)
    near(n?.massFlow_g_s ?? 0, 13.0311)
    expect(n?.choked).toBe(true)
    near(
      ((nozzleFlow(3.2, 705, 32, 118, null)?.massFlow_g_s ?? 0) / (n?.massFlow_g_s ?? 1) - 1) * 100,
      -1.6947,
      1e-4,
    )
    expect(criticalFlowFunction(6000, 20)).toBeNull()
  })
  test('W21 against the baseline, and drift', () => {
    const references = [305, 505, 705, 905].map(
      (p) => (nozzleFlow(3.2, p, 22, 100, null)?.massFlow_g_s ?? 0) * 3.6,
    )
    ;[20.2111, 33.5474, 46.9119, 60.3011].forEach((r, i) => near(references[i] ?? 0, r))
    const indicated = [20.3, 33.62, 46.75, 60.1]
    const rows = nozzleVerdict(
      references.map((reference, i) => ({ reference, indicated: indicated[i] ?? 0, baseline_pct: null })),
      1,
      0.2,
      60,
    )
    ;[0.4398, 0.2163, -0.345, -0.3334].forEach((d, i) => near(rows[i]?.deviation_pct ?? 0, d, 3e-4))
    ;[1.5937, 1.3577, 1.2558, 1.199].forEach((l, i) => near(rows[i]?.limit_pct ?? 0, l, 3e-5))
    expect(rows.every((r) => r.verdict === 'PASS')).toBe(true)
    const d = driftOf([0, 1, 2, 3], [0.1, 0.28, 0.61, 0.79], 1)
    near(d?.slope ?? 0, 0.24)
    near(d?.crossesAt ?? 0, 3.8125)
    expect(driftOf([0, 1], [0, 1], 1)).toBeNull()
  })
  test('W26 nitrogen in a room', () => {
    near(oxygenAfter_pct(42, 55, 15), 15.065, 2e-5)
    near(minutesToLeave(42, 55), 3.1768, 2e-5)
    near(oxygenSteady_pct(55, 600), 19.145, 2e-5)
  })
})

describe('orifice', () => {
  test('W22 wash water of FT-304', () => {
    const w = water(31, 0.42)
    const o = orificeFlow({
      D: 0.10226,
      d: 0.061,
      taps: 'flange',
      density_kg_m3: w.density_kg_m3,
      viscosity_Pa_s: w.viscosity_Pa_s,
      dp_Pa: 18_700,
      gas: null,
    })
    near(o.Re, 185319)
    near(o.C, 0.608847, 2e-6)
    near(o.massFlow_kg_s, 11.6174)
    near((o.massFlow_kg_s / w.density_kg_m3) * 3600, 42.0122)
    near(o.permanentLoss_Pa / 1000, 11.81, 5e-5)
    expect(o.outside).toEqual([])
  })
  test('W23 air', () => {
    const s = new Gas(AIR).state(308.15, 650)
    near(s?.density_kg_m3 ?? 0, 7.35705)
    near(s?.kappa ?? 0, 1.40849)
    const o = orificeFlow({
      D: 0.15408,
      d: 0.0925,
      taps: 'D-D/2',
      density_kg_m3: s?.density_kg_m3 ?? 0,
      viscosity_Pa_s: 1.89329e-5,
      dp_Pa: 9000,
      gas: { p1_Pa: 650_000, kappa: s?.kappa ?? 1.4 },
    })
    near(o.epsilon, 0.99606, 2e-6)
    near(o.C, 0.607445, 2e-6)
    near(o.massFlow_kg_s, 1.58623)
  })
  test('outside the standard it is said', () => {
    const o = orificeFlow({
      D: 0.04,
      d: 0.01,
      taps: 'corner',
      density_kg_m3: 1000,
      viscosity_Pa_s: 1e-3,
      dp_Pa: 100,
      gas: null,
    })
    expect(o.outside.length).toBeGreaterThan(1)
  })
})

describe('reference checks of a flow reading', () => {
  test('W24 timed catch', () => {
    const c = timedCatch({
      indicated_kg: 182.46,
      seconds: 60.35,
      density_kg_m3: 997.3,
      air_kg_m3: 1.19,
      uMass_kg: 0.02,
      halfTime_s: 0.2,
      uDensity_pct: 0.03,
    })
    near(c.mass_kg, 182.6508, 1e-6)
    near(c.flow_m3_h, 10.925)
    near(c.u_pct, 0.19398, 3e-5)
  })
  test('W25 tank draw-down', () => {
    near((verticalVolume_m3(4.2, 3.142, 2.6865) / (18 * 60 + 25)) * 3600, 20.5597)
    const dV = horizontalVolume_m3(1.6, 3.5, 1.1) - horizontalVolume_m3(1.6, 3.5, 0.62)
    near(dV, 2.63918)
    near((dV / 540) * 3600, 17.5945)
  })
  test('agreement within both uncertainties', () => {
    expect(compareFlow(101, 100, 1, 0.5)).toMatchObject({ agrees: true })
    expect(compareFlow(103, 100, 1, 0.5)).toMatchObject({ agrees: false })
  })
})
