import { LOG_FINDINGS } from '@calm/core/logs/findings/finding'
import { isTimeZone } from '@calm/core/logs/sniff/local-time'
import { DELIMITERS } from '@calm/core/logs/sniff/fields'
import { COLUMN_KINDS } from '@calm/core/logs/sniff/sniff'
import { TIME_FORMATS } from '@calm/core/logs/sniff/times'
import { isUnitSymbol } from '@calm/core/quantity/units'
import { z } from 'zod'

/** How a file of measurements is read: as it was sniffed, or as a person corrected it. */
export const Mapping = z
  .strictObject({
    delimiter: z.enum(DELIMITERS),
    decimal: z.enum(['.', ',']),
    isDecimalDelimiter: z.boolean(),
    headerLines: z.int().min(0).max(2000),
    columns: z
      .array(
        z.strictObject({
          name: z.string().trim().max(120),
          unit: z.string().refine(isUnitSymbol, 'This unit is not known. Pick one from the list.').nullable(),
          kind: z.enum(COLUMN_KINDS),
        }),
      )
      .min(1)
      .max(60),
    time: z.strictObject({ format: z.enum(TIME_FORMATS), unit_s: z.number().positive() }),
    zone: z.string().max(60).refine(isTimeZone, 'No time zone of this name is known.'),
  })
  .superRefine((m, ctx) => {
    const count = (kind: string) => m.columns.filter((c) => c.kind === kind).length
    const say = (path: (string | number)[], message: string) =>
      ctx.addIssue({ code: 'custom', path, message })
    if (count('value') === 0) say(['columns'], 'No column holds values: choose at least one.')
    if (count('value') + count('quality') > 12)
      say(['columns'], 'At most twelve columns of values; leave others out as text.')
    if (count('quality') > 1) say(['columns'], 'One column of signal quality; leave others out as text.')
    if (m.time.format === 'NONE')
      say(['time', 'format'], 'No column tells the time: choose one, or add a counted time.')
    else if (count('time') + count('date') === 0)
      say(['columns'], 'No column holds the time: choose the one that does.')
  })
export type Mapping = z.output<typeof Mapping>

/** Which meter a log is of: the loop's own, or what it is held against. */
export const LOG_OF = ['installed', 'reference'] as const

/** Where a log comes from; what is of a stand-in is simulated. */
export const LOG_SOURCES = ['file', 'memory', 'link', 'typed'] as const

export const NewLog = z.strictObject({
  id: z.uuid(),
  title: z
    .string()
    .trim()
    .min(1, 'Give it a name by which it is found again.')
    .max(120, 'At most 120 characters.'),
  of: z.enum(LOG_OF),
  source: z.enum(LOG_SOURCES).default('file'),
  /** Instrument of the plant that recorded it. */
  instrument: z.uuid().nullable(),
  site: z.string().trim().max(120, 'At most 120 characters.'),
  files: z.array(z.string().trim().min(1).max(200)).min(1).max(60),
  mapping: Mapping,
})
export type NewLog = z.output<typeof NewLog>

/** Whole lines of a file, some thousands at a time, in their order. */
export const NewPiece = z.strictObject({
  /** From 0, without a hole. The same piece again changes nothing. */
  piece: z.int().min(0),
  /** Which of the log's files it is of. */
  file: z.int().min(0).max(59),
  /** Its first line is the first of the file. */
  beginsFile: z.boolean(),
  text: z.string().min(1).max(4_500_000),
})

export const Channel = z.object({
  name: z.string(),
  unit: z.string().nullable(),
  kind: z.enum(['value', 'quality']),
  n: z.number(),
  min: z.number().nullable(),
  max: z.number().nullable(),
})
export const WrongLine = z.object({
  file: z.number(),
  line: z.number(),
  reason: z.enum(['FIELDS', 'TIME', 'NUMBER']),
})

export const Log = z.object({
  id: z.uuid(),
  tag: z.string(),
  title: z.string(),
  of: z.enum(LOG_OF),
  source: z.enum(LOG_SOURCES),
  instrument: z.string().nullable(),
  site: z.string(),
  files: z.array(z.string()),
  simulated: z.boolean(),
  /** open: being read in; kept: whole, and in the record of its loop. */
  state: z.enum(['open', 'kept']),
  channels: z.array(Channel),
  rows: z.number(),
  wrongCount: z.number(),
  /** The first thousand. */
  wrong: z.array(WrongLine),
  pieces: z.number(),
  from: z.number().nullable(),
  to: z.number().nullable(),
  /** Usual time between rows, ms, and the step above which one is missing. */
  interval: z.number(),
  gapAbove: z.number(),
  relative: z.boolean(),
  zone: z.string(),
  /** How its files were read: the next ones of this device are read alike. */
  mapping: Mapping,
  byName: z.string(),
  at: z.string(),
})
export type Log = z.output<typeof Log>
export type LogChannel = z.output<typeof Channel>

/** A log as a page draws it: for each pixel the true minimum and maximum; or its samples where there are few. */
export const LogView = z.object({
  from: z.number(),
  to: z.number(),
  kind: z.enum(['pixels', 'samples']),
  /** Of samples: their times, ms behind `from`; their values stand in `min`. Of pixels: nothing. */
  t: z.array(z.number()),
  min: z.array(z.number().nullable()),
  max: z.array(z.number().nullable()),
})
export type LogView = z.output<typeof LogView>

const orNull = z.number().nullable()
export const LogStatistics = z.object({
  n: z.number(),
  mean: z.number(),
  sd: z.number(),
  min: z.number(),
  max: z.number(),
  from: z.number(),
  to: z.number(),
  /** What needs every sample; null of a stretch too long for it. */
  close: z
    .object({
      nulls: z.number(),
      /** Values left out since their signal was too weak. */
      weak: z.number(),
      left: z.number(),
      interval: z.number(),
      gaps: z.number(),
      covered_s: z.number(),
      timeMean: orNull,
      noise: z.number(),
      noiseDiff: z.number(),
      nEff: z.number(),
      uMean: z.number(),
      slope: orNull,
      uSlope: orNull,
      theilSen: orNull,
    })
    .nullable(),
})
const Found = z.object({
  code: z.enum(LOG_FINDINGS),
  from: z.number(),
  to: z.number(),
  evidence: z.record(z.string(), z.union([z.number(), z.boolean()])),
})
export const LogJudgement = z.object({
  statistics: LogStatistics.nullable(),
  /** null: the stretch is too long to be judged at once, and was not judged by parts. */
  findings: z.array(Found).nullable(),
  /** In how many parts a long stretch was judged; null: at once, or not. */
  parts: z.number().nullable(),
  /** Most samples that are judged at once. */
  most: z.number(),
  /** What of the loop it was held against, in the channel's unit; null: the channel measures something else. */
  against: z
    .object({
      lo: z.number(),
      hi: z.number(),
      T: z.number().nullable(),
      tau: z.number(),
      /** Levels that mean something: trips, and where a current is no measurement any more. */
      lines: z.array(z.object({ kind: z.enum(['trip', 'signal']), name: z.string(), at: z.number() })),
    })
    .nullable(),
  stable: z.object({ count: z.number(), seconds: z.number() }).nullable(),
  total: z
    .object({
      forward: z.number(),
      reverse: z.number(),
      net: z.number(),
      U: z.number(),
      complete: z.boolean(),
      gaps: z.number(),
    })
    .nullable(),
})
export type LogJudgement = z.output<typeof LogJudgement>

export const LogComparison = z.object({
  n: z.number(),
  step_ms: z.number(),
  lag_s: z.number(),
  correlation: orNull,
  ambiguous: z.enum(['weak', 'edge', 'rival']).nullable(),
  meanDifference: z.number(),
  sdDifference: z.number(),
  uDifference: z.number(),
  limits: z.array(z.number()),
  offset: orNull,
  gain: orNull,
  uOffset: orNull,
  uGain: orNull,
  En: orNull,
  byStretch: z
    .array(
      z.object({
        from: z.number(),
        to: z.number(),
        n: z.number(),
        a: z.number(),
        b: z.number(),
        uA: z.number(),
        uB: z.number(),
        difference: z.number(),
        En: orNull,
      }),
    )
    .nullable(),
  /** In how many stretches both stand still: of very many the longest ones are told. */
  stretches: z.number().nullable(),
  /** Every difference against the mean of both, summed up by marks. */
  plot: z.array(
    z.object({ at: z.number(), n: z.number(), mean: z.number(), min: z.number(), max: z.number() }),
  ),
  /** Whether the lag goes away over the time of both, as where each has a clock of its own; null: not told. */
  clocks: z
    .object({
      perDay_s: z.number(),
      uPerDay_s: z.number(),
      from: z.number(),
      first_s: z.number(),
      last_s: z.number(),
      scatter_s: z.number(),
    })
    .nullable(),
  /** In how many parts long stretches were compared; null: at once. */
  parts: z.number().nullable(),
  /** What measured nothing, and of which of the two: in none of these numbers. */
  leftOut: z.array(Found.extend({ of: z.enum(['a', 'b']) })),
  unit: z.string(),
})
export type LogComparison = z.output<typeof LogComparison>
