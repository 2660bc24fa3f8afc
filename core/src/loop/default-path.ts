import { MEASURING_HIGH_MA, MEASURING_LOW_MA } from '../signal/current-range.ts'
import { USUAL_CODES } from '../signal/card-codes.ts'
import type { Range, Stage } from '../signal/stage.ts'
import { LINEAR } from '../signal/transfer.ts'

/** What a loop list tells of a signal path. */
export interface KnownRanges {
  readonly transmitter: Range
  readonly squareRoot: boolean
  readonly receiver: Range | null
}

/** Field paths that `defaultPath` fills without being told; a person confirms them. */
export const ASSUMED_FIELDS = [
  'path.output.failTo',
  'path.shunt.resistance_ohm',
  'path.input.n4',
  'path.input.n20',
  'path.input.nmin',
  'path.input.nmax',
] as const

/** The usual path behind a 4-20 mA transmitter: 250 Ω shunt, card in hundredths of a percent, controller. */
export function defaultPath(known: KnownRanges): Stage[] {
  const { transmitter, receiver, squareRoot } = known
  const flowBehindRoot = squareRoot && /\/(h|s|min|d)$/.test(transmitter.unit)
  return [
    { kind: 'process' },
    { kind: 'sensor' },
    {
      kind: 'transmitter',
      // A list gives the flow range of an orifice; its dp range is not known before set-up.
      range: flowBehindRoot ? { low: 0, high: 100, unit: '%' } : transmitter,
      transfer: squareRoot ? { kind: 'sqrt' } : LINEAR,
      ...(flowBehindRoot ? { shows: transmitter } : {}),
    },
    {
      kind: 'output',
      signal: '4-20',
      satLow_mA: MEASURING_LOW_MA,
      satHigh_mA: MEASURING_HIGH_MA,
      failTo: 'low',
    },
    { kind: 'shunt', resistance_ohm: 250 },
    { kind: 'input', signal: '4-20', ...USUAL_CODES },
    { kind: 'controller', range: receiver ?? transmitter, transfer: LINEAR },
  ]
}
