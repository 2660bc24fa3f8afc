import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import { bestPosition } from './best-position.ts'
import { compareLogs } from './compare/compare.ts'
import { LOG_FINDINGS, USUAL_JUDGEMENT } from './findings/finding.ts'
import { judgeLog } from './findings/judge.ts'
import { pixelsOf } from './pixels.ts'
import { isTimeZone } from './sniff/local-time.ts'
import { COLUMN_KINDS, sniff } from './sniff/sniff.ts'
import { stableStretches } from './stable-stretches.ts'
import { statisticsOf } from './statistics.ts'
import { totalOf } from './total.ts'

/** As many samples as a body of 4 MB holds. */
const MOST = 200_000
const Times = z.array(z.number().min(-8.64e15).max(8.64e15)).max(MOST).describe('ms since 1970')
const Values = z.array(z.number().nullable()).max(MOST).describe('null: no sample')
const GapFactor = z.number().min(1.5).max(1000).default(5)
const series = { t: Times, v: Values }

/** Says so where a series has not as many values as times. */
const asMany = (
  x: {
    readonly t: readonly number[]
    readonly v: readonly unknown[]
    readonly q?: readonly unknown[] | null | undefined
  },
  issue: (path: string, message: string) => void,
) => {
  const say = (what: string, count: number) =>
    `There are ${x.t.length} times and ${count} ${what}; each time needs its own.`
  if (x.v.length !== x.t.length) issue('v', say('values', x.v.length))
  if (x.q && x.q.length !== x.t.length) issue('q', say('signal qualities', x.q.length))
}
const checked = <
  S extends z.ZodType<{ t: number[]; v: (number | null)[]; q?: (number | null)[] | null | undefined }>,
>(
  schema: S,
) =>
  schema.superRefine((x, ctx) => {
    asMany(x, (path, message) => {
      ctx.addIssue({ code: 'custom', path: [path], message })
    })
  })

const Quality = z
  .array(z.number().min(0).max(100).nullable())
  .max(MOST)
  .nullish()
  .describe('signal quality, %')
const Ended = z
  .object({ lo: z.number(), hi: z.number() })
  .refine((r) => r.lo < r.hi, { message: 'The lower end must be below the upper one.' })
const d = USUAL_JUDGEMENT
const Settings = z.strictObject({
  range: Ended.nullish().transform((r) => r ?? undefined),
  limits: z
    .array(z.number())
    .max(20)
    .nullish()
    .transform((l) => l ?? undefined),
  gapFactor: z.number().min(1.5).max(1000).default(d.gapFactor),
  qualityLimit: z.number().min(0).max(100).default(d.qualityLimit),
  zeroShare: z.number().min(0.05).max(1).default(d.zeroShare),
  spikeK: z.number().min(3).max(1000).default(d.spikeK),
  c: z.number().min(5).max(10_000).default(d.c),
  cNoise: z.number().min(5).max(10_000).default(d.cNoise),
  cPeriodic: z.number().min(5).max(10_000).default(d.cPeriodic),
  noiseRatio: z.number().min(1.05).max(100).default(d.noiseRatio),
  minRun: z.int().min(3).max(MOST).default(d.minRun),
  join: z.int().min(0).max(MOST).default(d.join),
})

const few = { t: [0, 1000, 2000, 3000, 4000], v: [42, 42.1, 42, 41.9, 42] }
const number = z.number()
const orNull = z.number().nullable()
const Line = z.object({ offset: number, gain: number, uOffset: number, uGain: number, chi2: number })
const SOURCE = 'the product’s rules for logs'

export const logCalculations = [
  calculation({
    name: 'logs.sniff',
    title: 'What a file of measurements is',
    source: `${SOURCE}: delimiter, decimal sign, head, units, times`,
    input: z.strictObject({
      lines: z.array(z.string().max(10_000)).min(1).max(2000),
      zone: z
        .string()
        .max(60)
        .refine(isTimeZone, { message: 'No time zone of this name is known.' })
        .default('UTC'),
    }),
    output: z.object({
      delimiter: z.string(),
      decimal: z.string(),
      thousands: z.string().nullable(),
      headerLines: number,
      columns: z.array(
        z.object({ name: z.string(), unit: z.string().nullable(), kind: z.enum(COLUMN_KINDS) }),
      ),
      time: z.object({ format: z.string(), relative: z.boolean() }),
      first: orNull,
      last: orNull,
      rows: number,
      wrong: z.array(z.object({ line: number, reason: z.string() })),
      findings: z.array(z.object({ code: z.string(), line: number })),
    }),
    run: ({ lines, zone }) => {
      const told = sniff(lines, zone)
      if (!told)
        return refused('No line has two fields: this is no table of measurements.', 'lines', 'NO_TABLE')
      const { mapping, ...rest } = told
      const { delimiter, decimal, headerLines, columns, time } = mapping
      const relative = time.format === 'ELAPSED' || time.format === 'RELATIVE'
      return {
        delimiter,
        decimal,
        headerLines,
        columns: [...columns],
        time: { format: time.format, relative },
        ...rest,
        wrong: [...rest.wrong],
        findings: [...rest.findings],
      }
    },
    example: { lines: ['Time;Flow [m³/h]', '2026-03-01 10:00:00;41,5', '2026-03-01 10:00:01;41,6'] },
  }),
  calculation({
    name: 'logs.statistics',
    title: 'Statistics of a log',
    source: `${SOURCE}: means with the likeness of neighbours, noise by differences, slope by least squares and by pairs`,
    input: checked(
      z.strictObject({
        ...series,
        q: Quality,
        gapFactor: GapFactor,
        percentiles: z.array(z.number().min(0).max(100)).max(100).default([5, 50, 95]),
        bins: z.int().min(0).max(1000).default(0),
      }),
    ),
    output: z.object({
      n: number,
      nulls: number,
      left: number.describe('duplicates and backwards samples, left out'),
      interval: number.describe('ms'),
      gaps: number,
      covered_s: number,
      mean: number,
      sd: number,
      min: number,
      max: number,
      timeMean: orNull,
      noiseDiff: number,
      phi: number,
      noise: number,
      r1: number,
      nEff: number,
      uMean: number,
      slope: orNull.describe('per hour'),
      uSlope: orNull,
      residual: orNull,
      theilSen: orNull.describe('per hour'),
      percentiles: z.array(number),
      histogram: z.object({ start: number, width: number, counts: z.array(number) }).optional(),
      from: number,
      to: number,
    }),
    run: ({ t, v, gapFactor, percentiles, bins }) => {
      const told = statisticsOf({ t, v }, gapFactor, percentiles, bins)
      if (!told) return refused('There is no sample in this log.', 'v', 'NO_SAMPLE')
      const { histogram, ...rest } = told
      return {
        ...rest,
        percentiles: [...rest.percentiles],
        ...(histogram ? { histogram: { ...histogram, counts: [...histogram.counts] } } : {}),
      }
    },
    example: few,
  }),
  calculation({
    name: 'logs.judge',
    title: 'What a log has',
    source: `${SOURCE}: fourteen kinds of finding, each with the stretch it speaks of`,
    input: checked(z.strictObject({ ...series, q: Quality, settings: Settings.default(Settings.parse({})) })),
    output: z.object({
      findings: z.array(
        z.object({
          code: z.enum(LOG_FINDINGS),
          from: number,
          to: number,
          evidence: z.record(z.string(), z.union([number, z.boolean()])),
        }),
      ),
    }),
    run: ({ t, v, q, settings }) => ({
      findings: judgeLog({ t, v, q }, settings).map((f) => ({ ...f, evidence: { ...f.evidence } })),
    }),
    example: few,
  }),
  calculation({
    name: 'logs.stable',
    title: 'Where a log stands still',
    source: `${SOURCE}: the rule of trimming, over every stretch`,
    input: checked(
      z.strictObject({
        ...series,
        tau: z.number().min(0).max(1e6).describe('time constant, s'),
        T: z.number().positive().describe('tolerance, in the unit of the values'),
        gapFactor: GapFactor,
        minSamples: z.int().min(3).max(MOST).default(10),
      }),
    ),
    output: z.object({
      stretches: z.array(
        z.object({
          from: number,
          to: number,
          n: number,
          mean: number,
          sd: number,
          slope: number.describe('per second'),
          uA: number,
          uMean: number,
        }),
      ),
      seconds: number,
    }),
    run: ({ t, v, tau, T, gapFactor, minSamples }) => {
      const { stretches, seconds } = stableStretches({ t, v }, tau, T, gapFactor, minSamples)
      return { stretches: [...stretches], seconds }
    },
    example: { ...few, tau: 1, T: 1 },
  }),
  calculation({
    name: 'logs.total',
    title: 'Total of a rate over a log',
    source: `${SOURCE}: trapezoids, forward and reverse; a gap is refused or held`,
    input: checked(
      z.strictObject({
        ...series,
        per: z.enum(['s', 'min', 'h', 'd']).default('h'),
        cutoff: z.number().min(0).default(0),
        gap: z.enum(['refuse', 'hold']).default('refuse'),
        gapFactor: GapFactor,
        uReading: z.number().min(0).max(100).default(0).describe('standard, % of reading'),
        uZero: z.number().min(0).default(0).describe('standard, in the unit of the rate'),
        totalizer: z
          .strictObject({
            start: number,
            end: number,
            modulus: z.number().positive().optional(),
            U: z.number().min(0).optional(),
            net: z.boolean().optional(),
          })
          .nullish()
          .transform((x) => x ?? undefined),
      }),
    ),
    output: z.object({
      forward: number,
      reverse: number,
      net: number,
      covered_s: number,
      zero_s: number,
      gaps: z.array(z.object({ from: number, to: number, seconds: number, held: number })),
      held: number,
      complete: z.boolean(),
      uNoise: number,
      u: number,
      U: number,
      totalizer: z.object({ volume: number, difference_pct: orNull, En: orNull }).nullable(),
    }),
    run: ({ t, v, ...asked }) => {
      const told = totalOf({ t, v }, asked)
      return { ...told, gaps: [...told.gaps] }
    },
    example: few,
  }),
  calculation({
    name: 'logs.compare',
    title: 'Two logs compared',
    source: `${SOURCE}: lag by correlation, Deming’s and York’s lines, En by ISO 13528`,
    input: z.strictObject({
      a: checked(z.strictObject(series)).describe('installed'),
      b: checked(z.strictObject(series)).describe('reference'),
      maxLag_s: z.number().min(0).max(86_400).default(60),
      step_ms: z.number().positive().optional(),
      ratio: z.number().positive().default(1).describe('variance of the error of a by that of b'),
      Ua: z.number().min(0).default(0),
      Ub: z.number().min(0).default(0),
      tau: z.number().min(0).optional(),
      T: z.number().positive().optional(),
      gapFactor: GapFactor,
      target: z.number().positive().optional(),
    }),
    output: z.object({
      n: number,
      step_ms: number,
      lag_s: number,
      correlation: orNull,
      ambiguous: z.enum(['weak', 'edge', 'rival']).nullable(),
      meanDifference: number,
      sdDifference: number,
      uDifference: number,
      limits: z.array(number),
      slopeOnMean: orNull,
      offset: orNull,
      gain: orNull,
      uOffset: orNull,
      uGain: orNull,
      residual: orNull,
      En: orNull,
      needed_s: orNull,
      byStretch: z
        .object({
          points: z.array(
            z.object({
              from: number,
              to: number,
              n: number,
              a: number,
              b: number,
              uA: number,
              uB: number,
              difference: number,
              En: orNull,
            }),
          ),
          line: Line.nullable(),
        })
        .nullable(),
      plot: z.array(z.object({ at: number, n: number, mean: number, min: number, max: number })),
      clocks: z
        .object({
          ...{ perDay_s: number, uPerDay_s: number },
          ...{ from: number, first_s: number, last_s: number, scatter_s: number },
        })
        .nullable(),
    }),
    run: ({ a, b, ...asked }) => {
      const told = compareLogs(a, b, asked)
      if ('says' in told) return refused(told.says, told.where, 'NOTHING_IN_COMMON')
      return {
        ...told,
        limits: [...told.limits],
        plot: [...told.plot],
        byStretch: told.byStretch && { points: [...told.byStretch.points], line: told.byStretch.line },
      }
    },
    example: { a: few, b: { t: few.t, v: [41.9, 42, 41.9, 41.8, 41.9] } },
  }),
  calculation({
    name: 'logs.pyramid',
    title: 'A log by pixels',
    source: `${SOURCE}: the true minimum and maximum of each pixel`,
    input: checked(
      z.strictObject({ ...series, from: number, to: number, width: z.int().min(1).max(10_000) }),
    ).refine((x) => x.from < x.to, { path: ['to'], message: 'The end must lie behind the beginning.' }),
    output: z.object({
      pixels: z.array(z.object({ min: orNull, max: orNull, mean: orNull, count: number })),
    }),
    run: ({ t, v, from, to, width }) => ({ pixels: pixelsOf(t, v, from, to, width) }),
    example: { ...few, from: 0, to: 4000, width: 2 },
  }),
  calculation({
    name: 'logs.bestPosition',
    title: 'The best position of a sensor',
    source: `${SOURCE}: parabola of least squares through tries; the reading there decides`,
    input: z.strictObject({
      tries: z
        .array(z.tuple([number.describe('position'), z.number().min(0).max(100).describe('quality, %')]))
        .max(1000),
    }),
    output: z.object({
      state: z.enum(['FOUND', 'NEED_MORE', 'NO_PEAK', 'OUTSIDE']),
      best: orNull,
      expected: orNull,
      u: orNull,
    }),
    run: ({ tries }) => bestPosition(tries),
    example: { tries: [[10, 61] as [number, number], [20, 78], [30, 84], [40, 80], [50, 66]] },
  }),
]
