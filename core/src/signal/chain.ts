import { MEASURING_HIGH_MA, MEASURING_LOW_MA } from './current-range.ts'
import { z } from 'zod'
import { findUnit, isUnitSymbol } from '../quantity/units.ts'
import { USUAL_CODES } from './card-codes.ts'
import { compilePath, computeFromStation, type StationValue } from './path.ts'
import { STATION_IDS, type Stage, type StationId, type StageKind } from './stage.ts'
import { tableProblem, type Transfer } from './transfer.ts'

/** A unit in any usual spelling, by its symbol; what is no unit stays as typed, for the sentence that refuses it. */
const spelled = z
  .string()
  .default('1')
  .transform((u) => findUnit(u)?.symbol ?? u)

/** The flat description of a signal chain that calculations take. */
export const Chain = z
  .strictObject({
    lrv: z.number(),
    urv: z.number(),
    inUnit: spelled,
    transfer: z.enum(['linear', 'sqrt', 'table']).default('linear'),
    sqrtAt: z.enum(['tx', 'rx']).default('tx').describe('where the square root or table is applied'),
    table: z
      .array(z.tuple([z.number(), z.number()]))
      .optional()
      .describe('[input, output] fractions'),
    cutoff: z.number().min(0).max(1).optional().describe('fraction of output below which the output is 0'),
    reverse: z.boolean().optional(),
    shunt: z.number().positive().default(250).describe('Ω'),
    n4: z.number().default(USUAL_CODES.n4),
    n20: z.number().default(USUAL_CODES.n20),
    nmin: z.number().default(USUAL_CODES.nmin),
    nmax: z.number().default(USUAL_CODES.nmax),
    lo: z.number(),
    hi: z.number(),
    unit: spelled,
    dsp: z
      .strictObject({
        lo: z.number(),
        hi: z.number(),
        unit: spelled,
        decimals: z.int().min(0).max(8).default(1),
        from: z.enum(['MA', 'EU']).default('EU'),
      })
      .optional(),
    quantity: z.string().optional(),
    atm: z.number().optional(),
    signal: z.enum(['4-20', '0-20']).default('4-20').describe('what the transmitter sends'),
    inputSignal: z.enum(['4-20', '0-20']).default('4-20').describe('what the card expects'),
    volts20: z.number().positive().optional().describe('V the card takes for 20 mA'),
    m4: z.number().optional().describe('code of the scaling block at 4 mA'),
    m20: z.number().optional(),
    lsl: z.number().optional().describe('lower limit of the sensor'),
    usl: z.number().optional(),
    sqrtRx: z.boolean().optional().describe('a further root in the receiver'),
    sqrtDsp: z.boolean().optional().describe('a further root in the display'),
    cutoffRx: z.number().min(0).max(1).optional(),
    satLo: z.number().default(MEASURING_LOW_MA).describe('mA'),
    satHi: z.number().default(MEASURING_HIGH_MA).describe('mA'),
  })
  .superRefine((c, ctx) => {
    const spans = [
      ['urv', c.urv - c.lrv],
      ['hi', c.hi - c.lo],
      ['n20', c.n20 - c.n4],
      ['dsp', c.dsp ? c.dsp.hi - c.dsp.lo : 1],
    ] as const
    for (const [path, span] of spans)
      if (span === 0)
        ctx.addIssue({ code: 'custom', path: [path], message: 'Both ends are equal; a range needs a span.' })
    for (const [path, unit] of [
      ['inUnit', c.inUnit],
      ['unit', c.unit],
      ['dsp.unit', c.dsp?.unit ?? '1'],
    ] as const)
      if (!isUnitSymbol(unit))
        ctx.addIssue({
          code: 'custom',
          path: path.split('.'),
          message: `“${unit.slice(0, 40)}” is not a unit this program knows. Pick one from units.list.`,
        })
    if (c.transfer === 'table') {
      const problem = tableProblem(c.table ?? [])
      if (problem) ctx.addIssue({ code: 'custom', path: ['table'], message: problem })
    }
  })
export type Chain = z.output<typeof Chain>

/** The stages of the signal path that a flat chain describes. */
export function stagesOfChain(c: Chain): Stage[] {
  const transfer: Transfer =
    c.transfer === 'table'
      ? { kind: 'table', points: c.table ?? [] }
      : c.transfer === 'sqrt'
        ? { kind: 'sqrt', cutoff: c.cutoff }
        : { kind: 'linear' }
  const at = (place: 'tx' | 'rx'): Transfer => (c.sqrtAt === place ? transfer : { kind: 'linear' })
  const stages: Stage[] = [
    { kind: 'process' },
    {
      kind: 'sensor',
      ...(c.lsl !== undefined && c.usl !== undefined ? { limits: { low: c.lsl, high: c.usl } } : {}),
    },
    {
      kind: 'transmitter',
      range: { low: c.lrv, high: c.urv, unit: c.inUnit },
      transfer: at('tx'),
      reverse: c.reverse,
    },
    {
      kind: 'output',
      signal: c.signal,
      satLow_mA: c.signal === '0-20' ? 0 : c.satLo,
      satHigh_mA: c.satHi,
      failTo: 'low',
    },
    { kind: 'shunt', resistance_ohm: c.shunt },
    {
      kind: 'input',
      signal: c.inputSignal,
      n4: c.n4,
      n20: c.n20,
      nmin: c.nmin,
      nmax: c.nmax,
      ...(c.volts20 === undefined ? {} : { volts20: c.volts20 }),
    },
    {
      kind: 'controller',
      range: { low: c.lo, high: c.hi, unit: c.unit },
      transfer: c.sqrtRx ? { kind: 'sqrt', cutoff: c.cutoffRx } : at('rx'),
      ...(c.m4 === undefined ? {} : { m4: c.m4 }),
      ...(c.m20 === undefined ? {} : { m20: c.m20 }),
    },
  ]
  if (c.dsp)
    stages.push({
      kind: 'display',
      range: { low: c.dsp.lo, high: c.dsp.hi, unit: c.dsp.unit },
      from: c.dsp.from === 'MA' ? 'current' : 'controller',
      decimals: c.dsp.decimals,
      transfer: { kind: c.sqrtDsp ? 'sqrt' : 'linear' },
    })
  return stages
}

/** Every station's value by its id, from one value at any station; null when the chain has no such station. */
export function computeChain(c: Chain, from: StationId, value: number): Record<string, StationValue> | null {
  const path = compilePath(stagesOfChain(c))
  const values = computeFromStation(path, from, value)
  if (!values) return null
  return Object.fromEntries(path.stations.map((s, i) => [s.id, values[i] ?? { kind: 'none' }]))
}

const IDS = Object.values(STATION_IDS) as [StationId, ...StationId[]]
export const StationIdSchema = z.enum(IDS)
export const stageKindOf = (id: StationId): StageKind =>
  (Object.keys(STATION_IDS) as StageKind[]).find((k) => STATION_IDS[k] === id) ?? 'process'
