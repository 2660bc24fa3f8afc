import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { positive, some } from '../../quantity/described.ts'
import { cutoff, errorAt_pct, kneeFlow, pulses } from './accuracy.ts'
import { compareTyped } from './keying.ts'
import { plausible } from './plausible.ts'
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
  calculation({
    name: 'flow.errorCurve',
    title: 'Error by zero stability, and the cutoff',
    source:
      'The certificate says which style: the larger of both, or their sum; cutoff twice the zero stability',
    input: z.strictObject({
      base: positive('%'),
      zeroStability: positive('flow an hour'),
      style: z.enum(['max', 'sum']).default('max'),
      flows: z.array(positive('flow an hour')).min(1).max(50),
      cutoff: z.number().min(0).optional().describe('flow an hour; twice the zero stability when left out'),
    }),
    output: z.object({
      knee: z.number(),
      errors: z.array(z.number()).describe('%'),
      cutoff: z.number(),
      hidden: z.number().describe('a day, at the most'),
      warnings: z.array(z.string()),
    }),
    run: ({ base, zeroStability, style, flows, cutoff: own }) => {
      const cut = own ?? cutoff(zeroStability).cutoff
      const least = Math.min(...flows)
      return {
        knee: kneeFlow(base, zeroStability),
        errors: flows.map((q) => errorAt_pct(q, base, zeroStability, style)),
        cutoff: cut,
        hidden: cut * 24,
        warnings: [
          ...(cut === 0 ? ['A cutoff of 0 lets the total walk with the noise of the zero. Never 0.'] : []),
          ...(cut > 0 && cut < zeroStability ? ['A cutoff below the zero stability: the total walks.'] : []),
          ...(cut > least / 10 ? ['The cutoff is more than a tenth of the smallest flow.'] : []),
        ],
      }
    },
    example: { base: 0.1, zeroStability: 1.4, flows: [13600, 900, 300] },
  }),
  calculation({
    name: 'flow.plausible',
    title: 'Whether a characterization can be right',
    source: 'Typical limits in a fixed order; the certificate wins',
    input: z.strictObject({
      F: z.number().positive().nullable().default(null).describe('(g/s)/µs'),
      kF: z.number().nullable().default(null).describe('% per 100 °C'),
      lightPeriod: z.number().positive().nullable().default(null).describe('µs'),
      heavyPeriod: z.number().positive().nullable().default(null).describe('µs'),
      lightDensity: z.number().nullable().default(null),
      heavyDensity: z.number().nullable().default(null),
      densityUnit: z.enum(['g/cm3', 'kg/m3']).default('g/cm3'),
      kD: z.number().nullable().default(null).describe('% per 100 °C'),
      bore: z.number().positive().nullable().default(null).describe('mm'),
    }),
    output: z.object({
      findings: z.array(z.object({ code: z.string(), severity: z.string(), says: z.string() })),
    }),
    run: (x) => ({
      findings: plausible({
        F: x.F,
        kF: x.kF,
        lightPeriod_us: x.lightPeriod,
        heavyPeriod_us: x.heavyPeriod,
        lightDensity: x.lightDensity,
        heavyDensity: x.heavyDensity,
        densityUnit: x.densityUnit,
        kD: x.kD,
        bore_mm: x.bore,
      }).map(({ code, severity, says }) => ({ code, severity, says })),
    }),
    example: {
      F: 31.842,
      kF: 5.08,
      lightPeriod: 82435.17,
      heavyPeriod: 9766.284,
      lightDensity: 0.0012,
      heavyDensity: 0.9982,
      kD: 4.44,
      bore: 0.025,
    },
  }),
]
