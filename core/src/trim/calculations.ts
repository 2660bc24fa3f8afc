import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import {
  NO_ERRORS,
  rawReading,
  readTransmitter,
  transmitter,
  trueCurrent_mA,
  type Transmitter,
} from '../transmitter/transmitter.ts'
import { adjust, type Adjustment } from './adjust.ts'
import type { Transfer } from '../signal/transfer.ts'
import { trimPlausible, REFUSALS } from './plausible.ts'
import { recommend } from './recommend.ts'

const Errors = z.strictObject(
  Object.fromEntries(Object.keys(NO_ERRORS).map((k) => [k, z.number().default(0)])) as Record<
    keyof typeof NO_ERRORS,
    z.ZodDefault<z.ZodNumber>
  >,
)
const Operation = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('zeroTrim'), x: z.number().default(0).describe('true input now') }),
  z.strictObject({ op: z.literal('lowerTrim'), x: z.number(), applied: z.number().optional() }),
  z.strictObject({ op: z.literal('upperTrim'), x: z.number(), applied: z.number().optional() }),
  z.strictObject({ op: z.literal('range'), LRV: z.number(), URV: z.number() }),
  z.strictObject({ op: z.literal('rangeLowByInput'), x: z.number() }),
  z.strictObject({ op: z.literal('rangeHighByInput'), x: z.number() }),
  z.strictObject({
    op: z.literal('outputTrim4'),
    m: z.number().optional().describe('mA; the true one when left out'),
  }),
  z.strictObject({ op: z.literal('outputTrim20'), m: z.number().optional() }),
  z.strictObject({ op: z.literal('fixCurrent'), mA: z.number().nullable() }),
  z.strictObject({ op: z.literal('restoreSensorTrim') }),
  z.strictObject({ op: z.literal('restoreOutputTrim') }),
])
const Device = z
  .strictObject({
    LSL: z.number(),
    USL: z.number(),
    kind: z.enum(['gauge', 'absolute', 'differential']).default('gauge'),
    minSpan: z.number().positive().optional(),
    LRV: z.number(),
    URV: z.number(),
    transfer: z.enum(['linear', 'sqrt']).default('linear'),
    errors: Errors.prefault({}),
  })
  .refine((d) => d.USL > d.LSL, {
    path: ['USL'],
    message: 'The sensor’s upper limit must be above the lower one.',
  })
  .refine((d) => d.LRV !== d.URV, { path: ['URV'], message: 'The range has no span.' })
type Operation = z.output<typeof Operation>

function made(d: z.output<typeof Device>): Transmitter {
  const transfer: Transfer = { kind: d.transfer }
  return transmitter(
    {
      LSL: d.LSL,
      USL: d.USL,
      kind: d.kind,
      transfer,
      ...(d.minSpan === undefined ? {} : { minSpan: d.minSpan }),
    },
    d.errors,
    d.LRV,
    d.URV,
  )
}
function asked(o: Operation, t: Transmitter): { adjustment: Adjustment; raw: number } {
  switch (o.op) {
    case 'zeroTrim':
      return { adjustment: { kind: o.op }, raw: rawReading(t, o.x) }
    case 'lowerTrim':
    case 'upperTrim':
      return { adjustment: { kind: o.op, applied: o.applied ?? o.x }, raw: rawReading(t, o.x) }
    case 'rangeLowByInput':
    case 'rangeHighByInput':
      return { adjustment: { kind: o.op }, raw: rawReading(t, o.x) }
    case 'outputTrim4':
      return { adjustment: { kind: o.op, measured_mA: o.m ?? trueCurrent_mA(t, 4) }, raw: 0 }
    case 'outputTrim20':
      return { adjustment: { kind: o.op, measured_mA: o.m ?? trueCurrent_mA(t, 20) }, raw: 0 }
    case 'range':
      return { adjustment: { kind: o.op, LRV: o.LRV, URV: o.URV }, raw: 0 }
    case 'fixCurrent':
      return { adjustment: { kind: o.op, mA: o.mA }, raw: 0 }
    default:
      return { adjustment: { kind: o.op }, raw: 0 }
  }
}
const State = z.object({
  a: z.number(),
  b: z.number(),
  sLo: z.number(),
  beta4: z.number(),
  alpha: z.number(),
  LRV: z.number(),
  URV: z.number(),
  fixed: z.number().nullable(),
})
const told = ({ fixed_mA, ...s }: Transmitter['state']) => ({ ...s, fixed: fixed_mA })
const EXAMPLE = {
  LSL: -20,
  USL: 160,
  LRV: 0,
  URV: 80,
  errors: { z: 0.62, g: -0.0061, zo: 0.021, go: -0.0018 },
}

export const trimCalculations = [
  calculation({
    name: 'device.transmitter',
    title: 'A transmitter’s readings after adjustments',
    source: 'Raw reading, sensor trim, range, output trim; each adjustment with its exact effect',
    input: z.strictObject({
      device: Device,
      operations: z.array(Operation).max(100).default([]),
      inputs: z.array(z.number()).min(1).max(200),
      dir: z.union([z.literal(-1), z.literal(0), z.literal(1)]).default(0),
      temperature: z.number().default(20),
    }),
    output: z.object({
      state: State,
      readings: z.array(
        z.object({ x: z.number(), PV: z.number(), PCT: z.number(), ideal: z.number(), MA: z.number() }),
      ),
    }),
    run: ({ device, operations, inputs, dir, temperature }) => {
      let t = made(device)
      for (const o of operations) {
        const { adjustment, raw } = asked(o, t)
        t = adjust(t, adjustment, raw)
      }
      return {
        state: told(t.state),
        readings: inputs.map((x) => {
          const r = readTransmitter(t, x, dir, temperature)
          return { x, PV: r.PV, PCT: r.percent, ideal: r.ideal_mA, MA: r.mA }
        }),
      }
    },
    example: {
      device: EXAMPLE,
      operations: [
        { op: 'lowerTrim' as const, x: 0 },
        { op: 'upperTrim' as const, x: 80 },
      ],
      inputs: [0, 40, 80],
    },
  }),
  calculation({
    name: 'trim.plausible',
    title: 'Whether an adjustment makes sense now',
    source: 'Rules in a fixed order; the first that is broken is the refusal',
    input: z.strictObject({
      device: Device,
      operations: z.array(Operation).max(100).default([]),
      operation: Operation,
      manual: z.boolean().default(true),
      asFound: z.boolean().default(true),
      stable: z.boolean().default(true),
    }),
    output: z.object({ code: z.string(), says: z.string(), warnings: z.array(z.string()) }),
    run: ({ device, operations, operation, manual, asFound, stable }) => {
      let t = made(device)
      for (const o of operations) {
        const { adjustment, raw } = asked(o, t)
        t = adjust(t, adjustment, raw)
      }
      const { adjustment, raw } = asked(operation, t)
      const v = trimPlausible(t, adjustment, raw, { inManual: manual, asFoundClosed: asFound, stable })
      return { code: v.code, says: v.code === 'OK' ? '' : REFUSALS[v.code], warnings: [...v.warnings] }
    },
    example: { device: EXAMPLE, operation: { op: 'zeroTrim' as const, x: 0 } },
  }),
  calculation({
    name: 'trim.recommend',
    title: 'The smallest right action from as-found readings',
    source: 'Sensor, range and output errors apart; least intrusive correction that leaves enough',
    input: z.strictObject({
      points: z
        .array(
          z.strictObject({
            x: z.number(),
            dir: z.enum(['up', 'down']).default('up'),
            pv: z.number(),
            ma: z.number(),
          }),
        )
        .min(2)
        .max(200),
      L: z.number(),
      U: z.number(),
      Ld: z.number().optional(),
      Ud: z.number().optional(),
      transfer: z.enum(['linear', 'sqrt']).default('linear'),
      T: z.strictObject({ sensor: z.number(), output: z.number(), total: z.number() }),
      uncertainty: z.strictObject({ sensor: z.number(), output: z.number(), total: z.number() }),
      absolute: z.boolean().default(false),
      atm: z.number().optional(),
    }),
    output: z.object({
      action: z.string(),
      actions: z.array(z.string()),
      marginal: z.boolean(),
      mistakes: z.array(z.string()),
      largestTotal: z.number(),
      sensor: z.record(z.string(), z.number().nullable()).nullable(),
      output: z.record(z.string(), z.number().nullable()).nullable(),
      errors: z.array(
        z.object({ p: z.number(), es: z.number(), er: z.number(), eo: z.number(), et: z.number() }),
      ),
    }),
    run: (x) => {
      if (x.L === x.U) return refused('The range has no span.', 'U')
      const r = recommend({
        points: x.points.map((p) => ({ x: p.x, dir: p.dir, pv: p.pv, mA: p.ma })),
        L: x.L,
        U: x.U,
        Ld: x.Ld ?? x.L,
        Ud: x.Ud ?? x.U,
        transfer: { kind: x.transfer },
        T: x.T,
        uncertainty: x.uncertainty,
        absolute: x.absolute,
        ...(x.atm === undefined ? {} : { atm: x.atm }),
      })
      const parts = (c: typeof r.sensor) =>
        c && {
          zero: c.zero_pct,
          span: c.span_pct,
          terminalLinearity: c.terminalLinearity_pct,
          independentLinearity: c.independentLinearity_pct,
          hysteresis: c.hysteresis_pct,
        }
      return {
        action: r.action,
        actions: [...r.actions],
        marginal: r.marginal,
        mistakes: [...r.mistakes],
        largestTotal: r.largestTotal,
        sensor: parts(r.sensor),
        output: parts(r.output),
        errors: r.errors.map(({ p, es, er, eo, et }) => ({ p, es, er, eo, et })),
      }
    },
    example: {
      points: [
        { x: 0, pv: 0.4, ma: 4.08 },
        { x: 80, pv: 80.4, ma: 20.08 },
      ],
      L: 0,
      U: 80,
      T: { sensor: 0.2, output: 0.1, total: 0.25 },
      uncertainty: { sensor: 0.04, output: 0.02, total: 0.045 },
    },
  }),
]
