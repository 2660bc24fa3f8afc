import type { Link } from './links.ts'
import type { RankedShape, Explanation } from './explain.ts'
import { toldShapes } from './explain.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { Reported, Shape, SimpleShape } from './shapes.ts'

/** What a shape is called at the bench. */
const NAMES: Readonly<Record<SimpleShape, string>> = {
  NONE: 'healthy',
  OFFSET: 'shifted by the same amount everywhere',
  GAIN: 'span error',
  OFFSET_GAIN: 'zero and span error',
  GAIN_LIVE: 'another shunt, or a second load beside it',
  RANGE_HI: 'another 20 mA point',
  RANGE_LO: 'another 4 mA point',
  RANGE_BOTH: 'both ends of the range differ',
  RANGE_DEFAULT: 'left at its default, shows percent or milliamps',
  SCALE: 'another unit or the decimal point',
  LIVE0_TX: '0-20 mA sent to a 4-20 mA input',
  LIVE0_RX: '4-20 mA read as 0-20 mA',
  COUNTS_FS: 'wrong full-scale code',
  SQRT_EXTRA: 'square root taken twice',
  SQRT_MISSING: 'square root not taken',
  OFFSET_IN: 'zero shift before the square root',
  REVERSED_IN: 'reversed before the square root',
  LIVE0_TX_IN: '0-20 mA sent to a 4-20 mA input',
  LIVE0_RX_IN: '4-20 mA read as 0-20 mA',
  GAIN_LIVE_IN: 'another shunt, or a second load beside it',
  COUNTS_FS_IN: 'wrong full-scale code',
  REVERSED: 'reverse action',
  SIGN_FLIP: 'impulse lines or polarity swapped',
  ATM_OFFSET: 'off by the atmosphere: gauge taken for absolute, or the other way',
  ZERO_OMITTED: 'the lower range value is not added',
  TABLE_MISSING: 'linearisation is off',
  STUCK: 'stuck at one value',
  CLAMP_HI: 'cannot go higher',
  CLAMP_LO: 'cannot go lower',
  CUTOFF: 'low values are cut off',
  BOW: 'bent: the sensor is not linear',
  HYST: 'reads otherwise rising than falling',
  LAG: 'behind: read before it had settled',
  UNKNOWN: 'none of the known mistakes',
}
export const shapeName = (shape: Shape): string =>
  shape
    .split('+')
    .map((s) => NAMES[s as SimpleShape])
    .join(', and ')

const CAUSES: Readonly<Record<Link, Partial<Readonly<Record<SimpleShape, string>>>>> = {
  'IN>PV': {
    OFFSET: 'zero shift, head or wet leg, manifold not equalised, static pressure',
    GAIN: 'span drift, wrong sensor trim',
    OFFSET_GAIN: 'zero and span have drifted',
    STUCK: 'impulse line blocked, valve closed',
    HYST: 'sticking, diaphragm',
    LAG: 'a slow line, a pocket or thick fluid; read too soon',
    BOW: 'overload damage',
    SIGN_FLIP: 'impulse lines swapped',
    ATM_OFFSET: 'an absolute transmitter zeroed when vented',
  },
  'PV>PCT': {
    RANGE_HI: 'the transmitter’s range is not as documented',
    RANGE_LO: 'the transmitter’s range is not as documented',
    RANGE_BOTH: 'the transmitter’s range is not as documented',
    SQRT_EXTRA: 'transfer function of the transmitter',
    SQRT_MISSING: 'transfer function of the transmitter',
    REVERSED: 'action of the transmitter',
    CUTOFF: 'low-flow cutoff of the transmitter',
  },
  'PCT>MA': {
    OFFSET: 'output trim, often misused',
    GAIN: 'output trim, often misused',
    STUCK: 'fixed-current or multidrop mode',
    CLAMP_HI: 'the supply cannot drive it: look at the loop budget',
    LIVE0_TX: 'output set to 0-20 mA',
    LAG: 'damping: read after five times its time',
  },
  'MA>V': {
    GAIN_LIVE: 'shunt value, or a second load in parallel',
    OFFSET: 'leak to earth, wet terminal box',
    CLAMP_HI: 'input protection conducts',
  },
  'V>CNT': {
    OFFSET: 'calibration of the card',
    GAIN: 'calibration of the card',
    LIVE0_RX: 'type setting of the card',
    STUCK: 'the card is frozen',
  },
  'CNT>EU': {
    RANGE_HI: 'scaling block of the controller',
    RANGE_LO: 'scaling block of the controller',
    RANGE_BOTH: 'scaling block of the controller',
    SCALE: 'unit or decimal point in the scaling block',
    COUNTS_FS: 'full-scale code in the scaling block',
    ZERO_OMITTED: 'lower value missing in the scaling block',
    SQRT_EXTRA: 'a second root in the controller',
    CUTOFF: 'low-flow cutoff of the controller',
    STUCK: 'a forced value',
    LAG: 'a filter in the controller: read after five times its time',
  },
  'EU>DSP': {
    RANGE_DEFAULT: 'the display was left at its default',
    SCALE: 'decimal point or unit of the display',
    SQRT_EXTRA: 'a second root in the display',
  },
}

const plain = (shape: string): SimpleShape => shape.replace(/_IN$/, '') as SimpleShape
/** Likely causes of a shape on these links, the nearest to the process first. */
export const causesOf = (links: readonly Link[], shape: Shape): string[] => {
  const parts = shape.split('+') as SimpleShape[]
  return [
    ...new Set(
      parts.flatMap((s) =>
        links.flatMap((l) => {
          const cause = CAUSES[l][s] ?? CAUSES[l][plain(s)]
          return cause ? [cause] : []
        }),
      ),
    ),
  ]
}

const QUANTITY: Readonly<Record<Reported['label'], readonly [name: string, unit: string]>> = {
  offsetPctSpan: ['shift', '% of span'],
  gainPct: ['span', '%'],
  bowPctSpan: ['bow', '% of span'],
  hysteresisPctSpan: ['hysteresis', '% of span'],
  lagPctOfStep: ['behind by', '% of each step'],
  ohm: ['resistance', 'Ω'],
  fraction: ['level', 'of span'],
  inputOffsetPctSpan: ['shift before the root', '% of input span'],
  upperRange: ['20 mA point', ''],
  lowerRange: ['4 mA point', ''],
  factor: ['factor', ''],
  low: ['from', ''],
  high: ['to', ''],
  fullScaleCode: ['full-scale code', ''],
}
export const sayQuantities = (shape: RankedShape, unit: string): string =>
  shape.quantities
    .map((q) => {
      const [name, own] = QUANTITY[q.label]
      const ranged = q.label === 'upperRange' || q.label === 'lowerRange'
      return `${name} ${sayNumber(q.value, 4)} ${ranged ? unit : own}`.trim()
    })
    .join(', ')

/** The answer in a sentence: named, likely or undecided, with its rivals. */
export function sayExplanation(e: Explanation, unit: string): string {
  if (e.answer === 'unknown')
    return 'Not one of the mistakes known here: no single one makes these readings. Read a station in between, or more levels.'
  const [first, ...rivals] = toldShapes(e)
  if (!first) return 'More points are needed to name a cause.'
  const quantity = sayQuantities(first, unit)
  const head = `${shapeName(first.shape)}${quantity ? ` (${quantity})` : ''}, ${sayNumber(first.P * 100, 3)} %`
  const others = rivals.map((r) => `${shapeName(r.shape)}, ${sayNumber(r.P * 100, 2)} %`).join('; ')
  const lead = e.answer === 'named' ? 'Named' : e.answer === 'likely' ? 'Likely' : 'Undecided'
  return `${lead}: ${head}.${others ? ` Also possible: ${others}.` : ''}`
}
