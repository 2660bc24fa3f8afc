import type { Shape, SimpleShape } from './shapes.ts'

/** What is done about a mistake: the smallest right act, where it is not known yet in which part it lies. */
type Kind =
  | 'zero'
  | 'span'
  | 'bent'
  | 'stuck'
  | 'lag'
  | 'high'
  | 'low'
  | 'root'
  | 'live zero'
  | 'reversed'
  | 'air'
  | 'cutoff'
  | 'table'
  | 'scale'

const KINDS: Readonly<Partial<Record<SimpleShape, Kind>>> = {
  OFFSET: 'zero',
  OFFSET_IN: 'zero',
  ZERO_OMITTED: 'scale',
  GAIN: 'span',
  OFFSET_GAIN: 'span',
  RANGE_HI: 'span',
  RANGE_LO: 'span',
  RANGE_BOTH: 'span',
  RANGE_DEFAULT: 'scale',
  SCALE: 'scale',
  COUNTS_FS: 'scale',
  COUNTS_FS_IN: 'scale',
  GAIN_LIVE: 'scale',
  GAIN_LIVE_IN: 'scale',
  BOW: 'bent',
  HYST: 'bent',
  LAG: 'lag',
  STUCK: 'stuck',
  CLAMP_HI: 'high',
  CLAMP_LO: 'low',
  SQRT_EXTRA: 'root',
  SQRT_MISSING: 'root',
  LIVE0_TX: 'live zero',
  LIVE0_TX_IN: 'live zero',
  LIVE0_RX: 'live zero',
  LIVE0_RX_IN: 'live zero',
  REVERSED: 'reversed',
  REVERSED_IN: 'reversed',
  SIGN_FLIP: 'reversed',
  ATM_OFFSET: 'air',
  CUTOFF: 'cutoff',
  TABLE_MISSING: 'table',
}

const SAYS: Readonly<Record<Kind, string>> = {
  zero: 'Read the transmitter’s own value with no input. Off by the same: zero trim. Right: output trim at 4, then 20 mA.',
  span: 'Read the transmitter’s range and its own value at 100 %. Another range than documented: set the range. Value off: lower, then upper sensor trim. Value right: output trim.',
  bent: 'Do not trim: no trim removes it. Read again rising and falling; if it stays, repair or replace the sensor.',
  stuck:
    'Do not trim. Look for a fixed-current or multidrop mode, a blocked line, a closed valve, a forced value.',
  lag: 'Do not trim. Wait until it stands still, five times the damping at least, and read again.',
  high: 'Do not trim. Measure the volts at the transmitter at the highest current: the supply or the resistance in the loop holds it back.',
  low: 'Do not trim. The signal cannot go lower: look for a leak beside the loop, a limit or a sensor at its end.',
  root: 'Do not trim. The square root is taken in another number of places than once: look at the transfer function of transmitter and receiver.',
  'live zero': 'Do not trim. One end works with 0-20 mA: set both to the same signal.',
  reversed: 'Do not trim. The action or the two impulse lines are exchanged.',
  air: 'Do not zero. Gauge and absolute are mixed up: look at the kind of the transmitter and of the standard.',
  cutoff: 'Do not trim. A low cutoff is set: compare it with the sheet.',
  table: 'Do not trim. The linearisation is off or another one.',
  scale:
    'Do not trim. A setting is other than documented: compare range, unit, codes and shunt with the sheet.',
}
const ZERO_OF_ABSOLUTE =
  'Never zero it in open air. Read the transmitter’s own value against an absolute standard. Off by the same: lower sensor trim against that standard. Right: output trim at 4, then 20 mA.'
const NOTHING_YET =
  'Change nothing yet: this is none of the known mistakes. Read the transmitter’s own value at every point.'

/**
 * The smallest right act for a shape of error, where its part was not read yet.
 * @param absolute - the device measures from vacuum: it is never zeroed in open air
 */
export function actFor(shape: Shape | null, absolute: boolean): string {
  const kinds = (shape?.split('+') ?? []).flatMap((s) => KINDS[s as SimpleShape] ?? [])
  const [first, second] = kinds
  if (first === undefined) return NOTHING_YET
  const say = (kind: Kind) => (kind === 'zero' && absolute ? ZERO_OF_ABSOLUTE : SAYS[kind])
  return second === undefined || second === first ? say(first) : `${say(first)} ${say(second)}`
}
