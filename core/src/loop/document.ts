import { z } from 'zod'
import { SetUp } from '../instrument/set-up.ts'
import { Wiring } from '../part/wiring.ts'
import { isUnitSymbol } from '../quantity/units.ts'
import type { Stage } from '../signal/stage.ts'
import { tableProblem } from '../signal/transfer.ts'

const number = z.number('Type a number.')
const text = (max: number) => z.string().trim().max(max, `At most ${max} characters.`)

export const RangeSchema = z
  .strictObject({
    low: number,
    high: number,
    unit: z.string().refine(isUnitSymbol, 'This unit is not known. Pick one from the list.'),
  })
  .superRefine((r, ctx) => {
    if (r.low === r.high)
      ctx.addIssue({
        code: 'custom',
        path: ['high'],
        message: `Both ends are ${r.low} ${r.unit}. A range needs a span: the 20 mA point must differ from the 4 mA point.`,
      })
  })

export const TransferSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('linear') }),
  z.strictObject({ kind: z.literal('sqrt'), cutoff: number.min(0).max(0.5).optional() }),
  z
    .strictObject({
      kind: z.literal('table'),
      points: z
        .array(z.tuple([number, number]).readonly())
        .max(64)
        .readonly(),
    })
    .superRefine((t, ctx) => {
      const problem = tableProblem(t.points)
      if (problem) ctx.addIssue({ code: 'custom', path: ['points'], message: problem })
    }),
])

const signal = z.enum(['4-20', '0-20'])

const StageSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('process') }),
  z.strictObject({
    kind: z.literal('sensor'),
    limits: z.strictObject({ low: number, high: number }).optional(),
  }),
  z.strictObject({
    kind: z.literal('frequency'),
    atRate: number.positive('Above 0.'),
    frequency_Hz: number.positive('Above 0 Hz.').max(1e6, 'At most 1 MHz.'),
    limit_Hz: number.positive('Above 0 Hz.'),
    width_ms: number.min(0, 'Not below 0 ms.'),
  }),
  z.strictObject({
    kind: z.literal('totalizer'),
    unitsPerPulse: number.positive('Above 0.'),
    limit_Hz: number.positive('Above 0 Hz.'),
  }),
  z
    .strictObject({
      kind: z.literal('isolator'),
      inLow_mA: number.min(0).max(24),
      inHigh_mA: number.min(0).max(24),
      outLow_mA: number.min(0).max(24),
      outHigh_mA: number.min(0).max(24),
    })
    .superRefine((i, ctx) => {
      if (i.inLow_mA === i.inHigh_mA)
        ctx.addIssue({ code: 'custom', path: ['inHigh_mA'], message: 'The input has no span.' })
      if (i.outLow_mA === i.outHigh_mA)
        ctx.addIssue({ code: 'custom', path: ['outHigh_mA'], message: 'The output has no span.' })
    }),
  z.strictObject({
    kind: z.literal('converter'),
    channel: z.union([z.literal(1), z.literal(2)]),
    range: RangeSchema,
    decimals: z.int().min(0).max(6),
  }),
  z.strictObject({
    kind: z.literal('transmitter'),
    range: RangeSchema,
    transfer: TransferSchema,
    reverse: z.boolean().optional(),
    shows: RangeSchema.optional(),
  }),
  z.strictObject({
    kind: z.literal('output'),
    signal,
    satLow_mA: number.min(0).max(4),
    satHigh_mA: number.min(20).max(24),
    failTo: z.enum(['low', 'high']),
  }),
  z.strictObject({
    kind: z.literal('shunt'),
    resistance_ohm: number.positive('A shunt is larger than 0 Ω.').max(10_000, 'At most 10 000 Ω.'),
  }),
  z
    .strictObject({
      kind: z.literal('input'),
      signal,
      n4: z.int(),
      n20: z.int(),
      nmin: z.int(),
      nmax: z.int(),
      volts20: number.positive('Above 0 V.').optional(),
    })
    .superRefine((c, ctx) => {
      if (c.n4 === c.n20)
        ctx.addIssue({ code: 'custom', path: ['n20'], message: 'The codes for 4 and 20 mA must differ.' })
      if (c.nmin >= c.nmax)
        ctx.addIssue({
          code: 'custom',
          path: ['nmax'],
          message: 'The highest code must be above the lowest.',
        })
    }),
  z.strictObject({
    kind: z.literal('controller'),
    range: RangeSchema,
    transfer: TransferSchema,
    m4: z.int().optional(),
    m20: z.int().optional(),
  }),
  z.strictObject({
    kind: z.literal('display'),
    range: RangeSchema,
    from: z.enum(['current', 'controller', 'converter']),
    decimals: z.int().min(0).max(6),
    transfer: TransferSchema,
  }),
])

export const ToleranceSchema = z
  .strictObject({
    mode: z.enum(['max', 'sum', 'min']),
    pctSpan: number.min(0, 'A tolerance is not negative.').max(50, 'At most 50 % of span.'),
    pctReading: number.min(0, 'A tolerance is not negative.').max(50, 'At most 50 % of reading.'),
    abs: number.min(0, 'A tolerance is not negative.'),
  })
  .refine((t) => t.pctSpan + t.pctReading + t.abs > 0, {
    path: ['pctSpan'],
    message: 'Give at least one part of the tolerance; nothing could pass a tolerance of 0.',
  })

export const TagSchema = z
  .string()
  .trim()
  .min(1, 'A loop needs a tag.')
  .max(40, 'At most 40 characters.')
  .regex(/^[\p{L}\p{N}][\p{L}\p{N}._/-]*$/u, 'A tag is letters, digits and - . _ / without spaces.')

/**
 * What is saved of a loop: what was typed, its unit, and nothing derived. Documents of older versions are
 * brought up to this one when they are read.
 */
export const LoopDocument = z
  .strictObject({
    version: z.literal(2, 'This page is older than the server. Reload it; what was changed here is kept.'),
    tag: TagSchema,
    service: text(200),
    area: text(80),
    /** In the plant's own words: "pressure", "flow, clamp-on". */
    type: text(80),
    /** In the plant's own words: "4-20 mA HART", "PNP NO". */
    signal: text(80),
    /** Along the line, process first; empty for a switch. */
    path: z.array(StageSchema).max(12),
    /** Parts and wires; null where nobody has drawn any. */
    wiring: Wiring.nullable(),
    /** What the device was told; null where nobody has. */
    setUp: SetUp.nullable(),
    /** Relays on the same axis as the range. */
    trips: z
      .array(
        z.strictObject({
          name: text(40),
          /** In the unit of the transmitter's range. */
          at: number,
          acts: z.enum(['above', 'below']),
        }),
      )
      .max(8)
      .optional(),
    tolerance: ToleranceSchema.nullable(),
    interval_months: z.int().min(1, 'At least 1 month.').max(120, 'At most 120 months.').nullable(),
    /** As the plant's list told it, before the first record here. */
    lastCalibrated: z.iso.date('Not a date of the calendar. Write it as 2026-11-23.').nullable(),
    remark: text(2000),
    /** What a person typed, by field path, kept beside the value used. */
    asTyped: z.record(z.string().max(120), z.string().max(80)),
    /** Field paths that hold a default nobody has confirmed. */
    unconfirmed: z.array(z.string().max(120)).max(200),
  })
  .superRefine((d, ctx) => {
    const kinds = d.path.map((s) => s.kind)
    if (new Set(kinds).size !== kinds.length)
      ctx.addIssue({ code: 'custom', path: ['path'], message: 'A stage stands twice on the path.' })
    if (d.path.length > 0 && !kinds.includes('transmitter'))
      ctx.addIssue({ code: 'custom', path: ['path'], message: 'A signal path needs a transmitter.' })
  })
export type LoopDocument = z.output<typeof LoopDocument>

// The schema and the stages of the core must say the same; this line fails to compile when they part.
const _sameShape: (s: LoopDocument['path'][number]) => Stage = (s) => s
void _sameShape
