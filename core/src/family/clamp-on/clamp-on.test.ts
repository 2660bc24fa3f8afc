import { crossings } from '../../numeric/crossings.ts'
import { expect, test, describe } from 'vitest'
import { twoPaths, faceLoss, straightRun, adviseSensor } from './advice.ts'
import { traceBeam, transitTimes, measuredSoundSpeed_m_s, type BeamInput } from './beam.ts'
import { pathFromMean, meanFromPath, profileFactor } from './profile.ts'
import { judgeSoundSpeed } from './sound-speed-verdict.ts'
import { Gas } from '../../media/gas.ts'
import { seawater } from '../../media/seawater.ts'
import { water, waterSoundSpeed_m_s } from '../../media/water.ts'
import { isRefused } from '../../refused.ts'

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
    const temperatures_C = crossings((t) => waterSoundSpeed_m_s(t, 0.6), measured, 0, 100)
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
    expect(crossings((t) => waterSoundSpeed_m_s(t, 0.2), 1550, 0, 100)).toHaveLength(2)
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
