import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused, type Refused } from '../refused.ts'
import { CODE_FORMATS, currentPerCount_mA, unitsPerCount } from './card-codes.ts'
import { Chain, computeChain, StationIdSchema } from './chain.ts'
import { currentOfFraction, fractionOf } from './current-range.ts'
import { settlingTime_s } from './damping.ts'
import { powerTransfer } from './transfer.ts'
import { currentState, CURRENT_STATE_SAYS } from './current-state.ts'
import { shownValue, type StationValue } from './path.ts'

const FormatName = z.enum(Object.keys(CODE_FORMATS) as [keyof typeof CODE_FORMATS])
const EXAMPLE_CHAIN = {
  lrv: 0,
  urv: 80,
  inUnit: 'bar',
  shunt: 250,
  n4: 0,
  n20: 10000,
  lo: 0,
  hi: 80,
  unit: 'bar',
  dsp: { lo: 0, hi: 80, unit: 'bar' },
}

const known = z.object({
  kind: z.enum(['value', 'interval', 'atLeast', 'atMost', 'none']),
  value: z.number().optional(),
  mid: z.number().optional(),
  lo: z.number().optional(),
  hi: z.number().optional(),
  bound: z.number().optional(),
})

/** A station's value without the fraction that only the engine needs. */
function told(v: StationValue): z.input<typeof known> {
  if (v.kind === 'none') return { kind: v.kind }
  if (v.kind === 'value') return { kind: v.kind, value: v.value }
  if (v.kind === 'interval') return { kind: v.kind, mid: v.mid, lo: v.lo, hi: v.hi }
  return { kind: v.kind, bound: v.bound }
}

/** Every station's value as told, from one of them. */
function stations<T>(
  { chain, from, value }: { chain: Chain; from: z.output<typeof StationIdSchema>; value: number },
  tell: (v: StationValue) => T,
): Record<string, T> | Refused {
  const values = computeChain(chain, from, value)
  return values
    ? Object.fromEntries(Object.entries(values).map(([id, v]) => [id, tell(v)]))
    : refused(`This chain has no ${from}. Give it one, or start elsewhere.`, 'from')
}

export const signalCalculations = [
  calculation({
    name: 'signal.forward',
    title: 'Signal path from one value, every station',
    source: 'Ranges and transfer functions on fractions; NAMUR NE 43 limits; card codes rounded half up',
    input: z.strictObject({ chain: Chain, from: StationIdSchema.default('IN'), value: z.number() }),
    output: z.record(z.string(), z.number().nullable()),
    run: (x) => stations(x, shownValue),
    example: { chain: EXAMPLE_CHAIN, from: 'IN' as const, value: 47.3 },
  }),
  calculation({
    name: 'signal.inverse',
    title: 'What stood upstream of a value',
    source: 'Inverse transfer functions; a code is the interval of all currents that round to it',
    input: z.strictObject({ chain: Chain, from: StationIdSchema, value: z.number() }),
    output: z.record(z.string(), known),
    run: (x) => stations(x, told),
    example: { chain: EXAMPLE_CHAIN, from: 'CNT' as const, value: 16347 },
  }),
  calculation({
    name: 'signal.currentState',
    title: 'What a loop current says',
    source: 'NAMUR NE 43',
    input: z.strictObject({ mA: z.number() }),
    output: z.object({ state: z.string(), says: z.string() }),
    run: ({ mA }) => ({ state: currentState(mA), says: CURRENT_STATE_SAYS[currentState(mA)] }),
    example: { mA: 3.72 },
  }),
  calculation({
    name: 'signal.codeFormats',
    title: 'Codes of common input cards',
    source: 'Common codings of 4-20 mA inputs',
    input: z.strictObject({ format: FormatName, mA: z.number() }),
    output: z.object({ CNT: z.number(), mAPerCount: z.number(), n4: z.number(), n20: z.number() }),
    run: ({ format, mA }) => {
      const f = CODE_FORMATS[format]
      const raw = f.n4 + fractionOf(mA) * (f.n20 - f.n4)
      return {
        CNT: Math.min(f.nmax, Math.max(f.nmin, Math.floor(raw + 0.5))),
        mAPerCount: currentPerCount_mA(f),
        n4: f.n4,
        n20: f.n20,
      }
    },
    example: { format: 'hundredths' as const, mA: 3.55 },
  }),
  calculation({
    name: 'signal.resolution',
    title: 'Engineering units per code',
    source: 'One code as a fraction of span; a square root at the receiver coarsens towards zero',
    input: z.strictObject({
      n4: z.number(),
      n20: z.number(),
      span: z.number(),
      sqrtAt: z.enum(['tx', 'rx', 'none']).default('none'),
      q: z.number().min(0).max(1).default(1).describe('output fraction'),
    }),
    output: z.object({ mA: z.number(), PCT: z.number(), EU: z.number() }),
    run: ({ n4, n20, span, sqrtAt, q }) => {
      if (n4 === n20) return refused('The codes for 4 and 20 mA must differ.', 'n20')
      return {
        mA: currentPerCount_mA({ n4, n20 }),
        PCT: 100 / Math.abs(n20 - n4),
        EU: unitsPerCount({ n4, n20 }, span, sqrtAt === 'rx', q),
      }
    },
    example: { n4: 819, n20: 4095, span: 90, sqrtAt: 'rx' as const, q: 0.5 },
  }),
  calculation({
    name: 'signal.transfer',
    title: 'Transfer function of a transmitter',
    source: 'Linear, square root with cutoff, powers for weirs; limits by NAMUR NE 43',
    input: z.strictObject({
      PV: z.number(),
      LRV: z.number(),
      URV: z.number(),
      kind: z.enum(['linear', 'sqrt', 'pow3/2', 'pow5/2']).default('linear'),
      cutoff: z.number().min(0).max(1).default(0).describe('output fraction, of a square root'),
      below: z.enum(['zero', 'linear']).default('zero').describe('under the cutoff'),
    }),
    output: z.object({ x: z.number(), y: z.number(), mA: z.number() }),
    run: ({ PV, LRV, URV, kind, cutoff, below }) => {
      if (LRV === URV) return refused('The range has no span.', 'URV')
      const x = (PV - LRV) / (URV - LRV)
      const y = powerTransfer(kind, x, cutoff, below)
      return { x, y, mA: currentOfFraction(y) }
    },
    example: { PV: 9, LRV: 0, URV: 40, kind: 'sqrt' as const },
  }),
  calculation({
    name: 'signal.damping',
    title: 'How long to wait for a damped reading',
    source: 'First-order lag; two equal filters in a row',
    input: z.strictObject({
      tau: z.number().min(0).describe('s'),
      share: z.number().min(0).max(0.999999).default(0.999),
      filters: z.union([z.literal(1), z.literal(2)]).default(1),
    }),
    output: z.object({ seconds: z.number() }),
    run: ({ tau, share, filters }) => ({ seconds: settlingTime_s(tau, share, filters) }),
    example: { tau: 3 },
  }),
]
