import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { positive, some } from '../../quantity/described.ts'
import { pulses } from './accuracy.ts'
import { compareTyped } from './keying.ts'
import { density, massFlow_g_s } from './flow-and-density.ts'

export const coriolisCalculations = [
  calculation({
    name: 'flow.coriolis',
    title: 'Coriolis mass flow and density from raw signals',
    source: 'Two-point density; the certificate’s own equation wins',
    input: z.strictObject({
      F: positive('(g/s)/µs'),
      kF: some('% per 100 °C'),
      dt: some('µs'),
      zero: some('µs'),
      t: some('°C'),
      lightPeriod: positive('µs'),
      heavyPeriod: positive('µs'),
      lightDensity: z.number(),
      heavyDensity: z.number(),
      kD: some('% per 100 °C'),
      kf: z.number().default(0),
      period: positive('µs'),
    }),
    output: z.object({ massFlow: z.number().describe('g/s'), density: z.number() }),
    run: (x) => {
      if (x.lightPeriod === x.heavyPeriod)
        return refused('The light and the heavy point have the same period.', 'heavyPeriod')
      return {
        massFlow: massFlow_g_s({ F: x.F, kF: x.kF, zero_us: x.zero, tRef_C: 0 }, x.dt, x.t),
        density: density(
          {
            lightPeriod_us: x.lightPeriod,
            heavyPeriod_us: x.heavyPeriod,
            lightDensity: x.lightDensity,
            heavyDensity: x.heavyDensity,
            kD: x.kD,
            kf: x.kf,
            tRef_C: 0,
          },
          x.period,
          x.t,
          x.dt - x.zero,
        ),
      }
    },
    example: {
      F: 31.842,
      kF: 5.08,
      dt: 118.734,
      zero: 0.0127,
      t: 37.6,
      lightPeriod: 8243.517,
      heavyPeriod: 9766.284,
      lightDensity: 0.0012,
      heavyDensity: 0.9982,
      kD: 4.44,
      period: 10012.35,
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
]
