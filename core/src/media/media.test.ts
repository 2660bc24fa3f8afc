import { describe, expect, test } from 'vitest'
import { brine } from './brine.ts'
import { AIR, Gas, gasViscosity_Pa_s, VOLUME_BASES } from './gas.ts'
import { MATERIALS } from './materials-table.ts'
import { bore, odFromCircumference_mm, scheduledPipe, wallFromGauge } from './pipe.ts'
import { PIPE_SIZES } from './pipe-sizes-table.ts'
import { seawater, seawaterDensity_kg_m3, seawaterSoundSpeed_m_s } from './seawater.ts'
import { ammonia } from './typical-liquids.ts'
import { region1, saturationPressure_MPa, water, waterViscosity_Pa_s } from './water.ts'

/** As many digits as are printed, but never looser than 1e-5. */
const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

describe('pipe', () => {
  test('W01 bore of NPS 24 STD with 8 mm mortar', () => {
    const pipe = scheduledPipe('24', 'STD')
    expect(pipe).toEqual({ od_mm: 610, wall_mm: 9.53 })
    const b = bore(610, 9.53, 8)
    near(b?.id_mm ?? 0, 574.94)
    near(b?.area_m2 ?? 0, 0.259618)
    near(1.75 * (b?.area_m2 ?? 0) * 3600, 1635.59)
  })
  test('W02 outside diameter from a tape', () =>
    near(
      odFromCircumference_mm({ circumference_mm: 1921.4, tape_mm: 0.3, paint_mm: 0.25, film_mm: 0 }),
      610.801,
      2e-6,
    ))
  test('W03 wall from a gauge', () => {
    const w = wallFromGauge({
      readings_mm: [9.71, 9.66, 9.58, 9.62, 9.84, 9.77, 9.69, 9.6],
      cSet_m_s: 5920,
      cMaterial_m_s: 5890,
      wall_C: 41,
      calibrated_C: 20,
      paint_mm: 0,
      cPaint_m_s: 2500,
    })
    near(w.wall_mm, 9.59789)
    near(w.s_mm, 0.087845)
    near(w.u_mm, 0.031058, 2e-5)
    near(w.spread_pct, 2.6849, 2e-5)
  })
  test('a liner that fills the pipe leaves no bore', () => expect(bore(60.3, 5, 26)).toBeNull())
  test('every size has one outside diameter, and walls that fit in it', () => {
    for (const { nps, schedules } of PIPE_SIZES) {
      const ods = new Set(schedules.map(([, od]) => Math.round(od)))
      expect([nps, ods.size]).toEqual([nps, nps === '10' || nps === '12' ? ods.size : 1])
      for (const [, od, wall] of schedules) expect(wall * 2).toBeLessThan(od)
    }
  })
  test('every material’s two speeds give a Poisson ratio that solids have', () => {
    for (const m of MATERIALS) {
      if (m.cShear_m_s === null) continue
      const q = (m.cLong_m_s / m.cShear_m_s) ** 2
      const nu = (q - 2) / (2 * (q - 1))
      expect([m.key, nu > 0.15 && nu < 0.48]).toEqual([m.key, true])
    }
  })
})

describe('water', () => {
  const points: readonly [T: number, p: number, v: number, c: number][] = [
    [300, 3, 0.00100215168, 1507.73921],
    [300, 80, 0.000971180894, 1634.69054],
    [500, 3, 0.001202418, 1240.71337],
  ]
  test.each(points)('published check point %d K, %d MPa', (T, p, v, c) => {
    const s = region1(T, p)
    near(1 / s.density_kg_m3, v, 5e-9)
    near(s.soundSpeed_m_s, c, 1e-8)
  })
  test('published viscosities and saturation pressures', () => {
    near(waterViscosity_Pa_s(298.15, 998) * 1e6, 889.7351, 1e-8)
    near(waterViscosity_Pa_s(373.15, 1000) * 1e6, 307.883622, 1e-8)
    near(waterViscosity_Pa_s(433.15, 1000) * 1e6, 217.685358, 1e-8)
    near(saturationPressure_MPa(300), 0.00353658941, 1e-8)
    near(saturationPressure_MPa(500), 2.63889776, 1e-8)
  })
  test('W05 permeate as pure water', () => {
    const w = water(24, 0.6)
    near(w.density_kg_m3, 997.5245, 1e-7)
    near(w.soundSpeed_m_s, 1494.848, 1e-6)
    near(w.viscosity_Pa_s * 1000, 0.910598, 1e-6)
    near(saturationPressure_MPa(297.15) * 1000, 2.98563)
  })
  test('sound is fastest near 74 °C', () => {
    const speeds = Array.from({ length: 100 }, (_, t) => water(t, 0.2).soundSpeed_m_s)
    expect(speeds.indexOf(Math.max(...speeds))).toBeGreaterThan(72)
    expect(speeds.indexOf(Math.max(...speeds))).toBeLessThan(76)
  })
})

describe('salt water', () => {
  test('published check points', () => {
    near(seawaterDensity_kg_m3(35, 25, 0), 1023.34306, 1e-8)
    near(seawaterDensity_kg_m3(35, 25, 1000), 1062.53817, 1e-8)
    near(seawaterSoundSpeed_m_s(40, 40, 1000), 1731.995, 1e-6)
  })
  test('W06 seawater of FT-101', () => {
    const s = seawater(35.1, 14.2, 3.8)
    near(s.density_kg_m3, 1026.392, 1e-6)
    near(s.soundSpeed_m_s, 1504.857, 1e-6)
    near(s.viscosity_Pa_s * 1000, 1.24594)
    near((s.viscosity_Pa_s / s.density_kg_m3) * 1e6, 1.2139, 1e-5)
  })
  test('W07 brine', () => {
    const s = brine(0.18, 22, 0.35)
    near(s.density_kg_m3, 1130.593, 1e-6)
    near(s.soundSpeed_m_s, 1698.875, 1e-6)
  })
  test('no salt is fresh water', () => {
    near(brine(0, 20, 0.2).soundSpeed_m_s, water(20, 0.2).soundSpeed_m_s, 1e-12)
  })
})

describe('gas', () => {
  test('the published check state', () => {
    const s = new Gas({
      methane: 0.77824,
      nitrogen: 0.02,
      carbon_dioxide: 0.06,
      ethane: 0.08,
      propane: 0.03,
      isobutane: 0.0015,
      n_butane: 0.003,
      isopentane: 0.0005,
      n_pentane: 0.00165,
      n_hexane: 0.00215,
      n_heptane: 0.00088,
      n_octane: 0.00024,
      n_nonane: 0.00015,
      n_decane: 9e-5,
      hydrogen: 0.004,
      oxygen: 0.005,
      carbon_monoxide: 0.002,
      water: 0.0001,
      hydrogen_sulfide: 0.0025,
      helium: 0.007,
      argon: 0.001,
    }).state(400, 50_000)
    near(s?.molarMass_g_mol ?? 0, 20.54333051, 1e-9)
    near(s?.molarDensity_mol_L ?? 0, 12.80792403648801, 1e-11)
    near(s?.Z ?? 0, 1.173801364147326, 1e-11)
    near(s?.cp_J_molK ?? 0, 58.54617672380667, 1e-10)
    near(s?.cv_J_molK ?? 0, 39.12076154430332, 1e-10)
    near(s?.soundSpeed_m_s ?? 0, 712.6393684057903, 1e-11)
  })
  const FUEL = new Gas({
    methane: 0.9145,
    ethane: 0.0432,
    propane: 0.0108,
    n_butane: 0.0029,
    isobutane: 0.0021,
    nitrogen: 0.014,
    carbon_dioxide: 0.0125,
  })
  test('W12 fuel gas of FT-401', () => {
    const s = FUEL.state(294.15, 840)
    near(s?.molarMass_g_mol ?? 0, 17.67952, 1e-6)
    near(s?.cp0_over_R ?? 0, 4.43888, 2e-6)
    near(s?.molarDensity_mol_L ?? 0, 0.3496933, 1e-6)
    near(s?.Z ?? 0, 0.9821696, 1e-6)
    near(s?.density_kg_m3 ?? 0, 6.182411, 1e-6)
    near(s?.soundSpeed_m_s ?? 0, 419.0913, 1e-6)
    near(s?.kappa ?? 0, 1.29269, 1e-5)
    near(FUEL.state(288.15, 101.325)?.density_kg_m3 ?? 0, 0.749442, 2e-6)
  })
  test('W13 actual to standard volume', () => {
    const line = FUEL.state(294.15, 840)?.density_kg_m3 ?? 0
    const at = (base: keyof typeof VOLUME_BASES) => {
      const b = VOLUME_BASES[base]
      return (186 * line) / (FUEL.state(b.T, b.p_kPa)?.density_kg_m3 ?? NaN)
    }
    near(at('standard15'), 1534.38)
    near(at('normal'), 1453.83)
    near(at('standard60F') / 0.028316846592, 54291.4)
    near(186 * line, 1149.93)
  })
  const table: readonly [
    gas: string,
    mix: ConstructorParameters<typeof Gas>[0],
    rho: number,
    c: number,
    Z: number,
  ][] = [
    ['nitrogen', { nitrogen: 1 }, 11.519, 350.46, 0.99779],
    ['air', AIR, 11.921, 344.42, 0.9966],
    ['carbon dioxide', { carbon_dioxide: 1 }, 19.098, 259.11, 0.94545],
    ['methane', { methane: 1 }, 6.7044, 441.98, 0.98174],
    ['helium', { helium: 1 }, 1.634, 1012.19, 1.00498],
    ['argon', { argon: 1 }, 16.498, 319.65, 0.99342],
  ]
  test.each(table)('%s at 20 °C and 1000 kPa', (_gas, mix, rho, c, Z) => {
    const s = new Gas(mix).state(293.15, 1000)
    near(s?.density_kg_m3 ?? 0, rho, 5e-5)
    near(s?.soundSpeed_m_s ?? 0, c, 2e-5)
    near(s?.Z ?? 0, Z, 1e-5)
  })
  test('carbon dioxide above its vapour pressure is no gas: no number', () => {
    expect(new Gas({ carbon_dioxide: 1 }).state(273.15, 8000)).toBeNull()
  })
  test('fractions that do not sum to one are normalised', () => {
    const a = new Gas({ methane: 90, nitrogen: 10 }).state(300, 500)
    near(a?.Z ?? 0, new Gas({ methane: 0.9, nitrogen: 0.1 }).state(300, 500)?.Z ?? 1, 1e-13)
  })
  test('viscosity of nitrogen at 22 °C', () => near(gasViscosity_Pa_s('nitrogen', 295.15), 1.76707e-5, 5e-6))
})

describe('liquid ammonia', () => {
  test.each<[t_C: number, rho: number, c: number, mu_mPa_s: number]>([
    [-30, 677.5, 1715, 0.243],
    [-25, 671.25, 1682.5, 0.2285],
    [17, 614.72, 1395.6, 0.1425],
    [20, 610.4, 1374, 0.138],
    [40, 579.6, 1224, 0.114],
  ])('at %s °C', (t_C, rho, c, mu) => {
    const told = ammonia(t_C)
    expect(told?.density_kg_m3).toBeCloseTo(rho, 9)
    expect(told?.soundSpeed_m_s).toBeCloseTo(c, 9)
    expect(told?.viscosity_Pa_s).toBeCloseTo(mu / 1000, 12)
  })
  test.each([-30.01, 40.01])('outside its table, at %s °C, nothing is told', (t_C) => {
    expect(ammonia(t_C)).toBeNull()
  })
})
