import { expect, describe, test } from 'vitest'
import { orificeFlow } from './orifice.ts'
import { Gas, AIR } from '../../media/gas.ts'
import { water } from '../../media/water.ts'

const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

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
