import type { Finding, Fix, Severity } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { convertRangeEnd, printedUnit, STANDARD_BAROMETER_PA, unitOf } from '../../quantity/units.ts'
import type { Range } from '../../signal/stage.ts'
import { isDefaultRange } from '../type-change.ts'
import { isPlausiblePair } from './quantities.ts'
import { severityOf } from './severity.ts'

/** Ranges that differ by less than this much of span are the same range typed twice. */
export const SAME_RANGE = 1e-4
/** How well a shift has to be the air pressure to be called that: a barometer is rounded and differs by the day. */
const LIKE_AIR = 0.08

export const sayRange = (r: Range) => `${sayNumber(r.low)} to ${sayNumber(r.high)} ${printedUnit(r.unit)}`

/** One end of the line against another: who they are, and where the second one's range stands in the document. */
export interface Ends {
  readonly names: readonly [string, string]
  readonly code: string
  readonly field: string
}

/** Gauge taken for absolute, or the other way: a sentence, or null where the shift is another. */
function sayAir(from: Range, to: Range, shift_low: number, shift_high: number): string | null {
  const dimensions = [unitOf(from.unit).dimension, unitOf(to.unit).dimension]
  if (!dimensions.includes('pressure_gauge') || !dimensions.includes('pressure_abs')) return null
  const air = STANDARD_BAROMETER_PA / unitOf(to.unit).factor
  const isAir = (shift: number) => Math.abs(Math.abs(shift) - air) <= LIKE_AIR * air
  if (!isAir(shift_low) || !isAir(shift_high)) return null
  return `Gauge and absolute are mixed up: ${printedUnit(from.unit)} and ${printedUnit(to.unit)}. The reading is wrong by the air pressure, about ${sayNumber(air, 4)} ${printedUnit(to.unit)}.`
}

/** Ranges that devices are delivered with and that are often meant: no word of them where the other side differs. */
const OFTEN_MEANT = [10]
const sayLeft = (r: Range, who = '') =>
  ` ${sayNumber(r.low)} to ${sayNumber(r.high)}${who && ` in the ${who}`} looks like a default that nobody changed.`
/** A receiver that nobody has ever told its range, in a sentence to add; empty where it was told one. */
const sayDefault = (to: Range) => (isDefaultRange(to) ? sayLeft(to) : '')
/** The same for the sender, where the receiver has a range of its own. */
const sayEither = (from: Range, to: Range, sender: string) =>
  isDefaultRange(to)
    ? sayLeft(to)
    : isDefaultRange(from) && !OFTEN_MEANT.includes(from.high)
      ? sayLeft(from, sender)
      : ''

/** A receiver in percent of what the transmitter measures: full signal is 100 %, or somebody means another percent. */
function percentFindings(from: Range, to: Range, { names, field }: Ends): Finding[] {
  const falls = from.high < from.low
  const [low, high] = falls && to.low > to.high ? [100, 0] : [0, 100]
  if (to.low === low && to.high === high) return []
  const opposed = to.low === high && to.high === low
  const isPart = Math.min(to.low, to.high) >= 0 && Math.max(to.low, to.high) <= 100 && !isDefaultRange(to)
  const severity: Severity = !opposed && isPart ? 'warn' : 'stop'
  return [
    {
      code: opposed ? 'ACTION_OPPOSED' : 'PERCENT_RANGE',
      severity,
      where: [...names],
      says: opposed
        ? `The ${names[0]} rises where the ${names[1]} falls: one of the two ranges is reversed.`
        : severity === 'stop'
          ? `The ${names[1]} shows percent and is scaled ${sayRange(to)}: full signal would read ${sayNumber(to.high)} %.${sayDefault(to)}`
          : `The ${names[1]} shows percent and is scaled ${sayRange(to)}, not 0 to 100 %. Is it percent of something larger than the measured range, as of a whole tank?`,
      evidence: [
        { label: names[0], value: sayRange(from) },
        { label: names[1], value: sayRange(to) },
      ],
      fix: {
        label: `Set the ${names[1]} to ${low} to ${high} %`,
        set: [
          { path: `${field}.range.low`, value: low },
          { path: `${field}.range.high`, value: high },
        ],
      },
      rule: 'Percent of range is 0 at the bottom and 100 at the top.',
    },
  ]
}

function otherQuantity(from: Range, to: Range, ends: Ends): Finding[] {
  if (to.unit === '%') return percentFindings(from, to, ends)
  const [a, b] = [unitOf(from.unit).dimension, unitOf(to.unit).dimension]
  const say = (d: string) => d.replace(/_/g, ' ')
  const { names } = ends
  const left = isDefaultRange(to)
  return [
    {
      code: 'QUANTITY_DIFFERS',
      severity: !isPlausiblePair(a, b) ? 'stop' : left ? 'warn' : 'note',
      where: [...names],
      says: `The ${names[0]} measures ${say(a)} and the ${names[1]} shows ${say(b)}. ${isPlausiblePair(a, b) ? 'Check the conversion in the receiver.' : 'Nothing in between makes one of the other: one of the two units is wrong.'}${sayDefault(to)}`,
      evidence: [
        { label: names[0], value: sayRange(from) },
        { label: names[1], value: sayRange(to) },
      ],
    },
  ]
}

/**
 * Two ranges of one line against each other.
 * @param from - what the first one sends, as documented
 * @param tolerance_pct - allowed error of the loop, % of span; null where nobody told it
 */
export function rangeFindings(from: Range, to: Range, ends: Ends, tolerance_pct: number | null): Finding[] {
  const { names, code, field } = ends
  const low = convertRangeEnd(from.low, from.unit, to.unit)
  const high = convertRangeEnd(from.high, from.unit, to.unit)
  if (low.kind === 'refused' || high.kind === 'refused') return otherQuantity(from, to, ends)
  const span = Math.abs(to.high - to.low)
  const shifts = [to.low - low.value, to.high - high.value] as const
  const worst_pct = (100 * Math.max(Math.abs(shifts[0]), Math.abs(shifts[1]))) / span
  if (worst_pct <= 100 * SAME_RANGE) return []
  const evidence = [
    { label: names[0], value: sayRange(from) },
    { label: names[1], value: sayRange(to) },
    { label: 'largest difference of the ends', value: worst_pct, unit: '% of span' },
  ]
  const adopt: Fix = {
    label: `Set the ${names[1]} to ${sayNumber(low.value)} to ${sayNumber(high.value)} ${printedUnit(to.unit)}`,
    set: [
      { path: `${field}.range.low`, value: low.value },
      { path: `${field}.range.high`, value: high.value },
    ],
  }
  if (Math.sign(from.high - from.low) !== Math.sign(to.high - to.low))
    return [
      {
        code: 'ACTION_OPPOSED',
        severity: 'stop',
        where: [...names],
        says: `The ${names[0]} rises where the ${names[1]} falls: one of the two ranges is reversed.`,
        evidence,
        fix: adopt,
        rule: 'Both ends of a loop must agree on the direction of the signal.',
      },
    ]
  const sameNumbers = from.unit !== to.unit && from.low === to.low && from.high === to.high
  const severity = severityOf(worst_pct, tolerance_pct)
  const air = sayAir(from, to, ...shifts)
  const small =
    severity === 'stop' ? '' : ` That is ${sayNumber(worst_pct, 2)} % of span, within the tolerance.`
  return [
    {
      code: sameNumbers ? 'UNIT_DIFFERS' : code,
      severity,
      where: [...names],
      says:
        air !== null
          ? `${air}${small}`
          : sameNumbers
            ? `The ${names[0]} and the ${names[1]} have the same numbers in different units: ${printedUnit(from.unit)} and ${printedUnit(to.unit)}. The reading is wrong by the ratio of the units.${small}`
            : `The ${names[1]} is scaled ${sayRange(to)}, the ${names[0]} ${sayRange(from)}.${sayEither(from, to, names[0])}${small}`,
      evidence,
      fix: adopt,
      rule: 'The same percent of signal must mean the same value at both ends.',
    },
  ]
}
