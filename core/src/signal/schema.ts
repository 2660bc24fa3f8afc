import { z } from 'zod'
import { isUnitSymbol } from '../quantity/units.ts'
import { tableProblem } from './transfer.ts'

const number = z.number('Type a number.')

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

export const StageSchema = z.discriminatedUnion('kind', [
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
