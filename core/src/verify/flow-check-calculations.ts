import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import { positive } from '../quantity/described.ts'
import {
  compareFlow,
  drawDownUncertainty_pct,
  horizontalVolume_m3,
  timedCatch,
  verticalVolume_m3,
} from './flow-check.ts'

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

export const flowCheckCalculations = [
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
      if (reference === 0) return refused('A reference flow of 0 gives no error in percent.', 'reference')
      return compared(meter, reference, uMeter, uReference)
    },
    example: { meter: 36.42, reference: 36.15, uMeter: 0.6, uReference: 0.5 },
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
      if (from === to) return refused('Both levels are the same: nothing was drawn down.', 'to')
      if (length !== null && Math.max(from, to) > diameter)
        return refused(`A level above the tank’s ${diameter} m is not in it.`, 'from')
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
