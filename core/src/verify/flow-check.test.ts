import { expect, describe, test } from 'vitest'
import { timedCatch, compareFlow, horizontalVolume_m3, verticalVolume_m3 } from './flow-check.ts'

const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

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
