import { factsOf, type FactsOf } from '@calm/core/loop/facts'
import { convert, convertRangeEnd } from '@calm/core/quantity/units'
import { pointsOf, type Relays } from '@calm/core/signal/relay-plan'

/** What of a loop a channel of its log is held against, in the channel's unit; null where it measures something else. */
export interface HeldAgainst {
  readonly lo: number
  readonly hi: number
  /** Tolerance at the middle of the range; null where the loop has none. */
  readonly T: number | null
  /** Damping of the device, s. */
  readonly tau: number
  /** Values at which something happens: trips, and where a current is no measurement any more. */
  readonly lines: LevelLine[]
}

/** A level of a channel that has a meaning on its loop. */
export interface LevelLine {
  readonly kind: 'trip' | 'signal'
  readonly name: string
  readonly at: number
}

/** Currents at which a measurement ends and a failure begins, mA. @see NAMUR NE 43 */
const SIGNAL_ENDS = [
  [3.6, 'a failure is told below'],
  [3.8, 'it measures down to'],
  [20.5, 'it measures up to'],
  [21, 'a failure is told above'],
] as const

/** A rate is counted by the time that stands under its stroke. */
export const perOf = (unit: string | null): 's' | 'min' | 'h' | 'd' | null => {
  const told = /\/(s|min|h|d)$/.exec(unit ?? '')?.[1]
  return told === 's' || told === 'min' || told === 'h' || told === 'd' ? told : null
}

/** Where relays change over. */
const tripLines = (relays: Relays | null, from: string, to: string): LevelLine[] =>
  (relays?.plans ?? []).flatMap(pointsOf).flatMap(([name, x]) => {
    const told = convertRangeEnd(x, from, to)
    return told.kind === 'value' ? [{ kind: 'trip' as const, name, at: told.value }] : []
  })
/** Where the current leaves what it may measure: it follows the value in a straight line. */
const signalLines = ({ low, high }: { readonly low: number; readonly high: number }): LevelLine[] =>
  SIGNAL_ENDS.map(([mA, name]) => ({
    kind: 'signal',
    name: `${mA} mA, ${name}`,
    at: low + ((mA - 4) / 16) * (high - low),
  }))

/** The range and tolerance of the loop, as its benches have them, in the unit of a channel. */
export function heldAgainst(document: FactsOf, unit: string | null): HeldAgainst | null {
  if (unit === null) return null
  const { range: measured, ranges, allowed, damping_s, relays, needsRoot } = factsOf(document)
  // What is measured, else what the loop shows of it: a flow by its differential pressure is logged as a flow.
  const fits = [...(measured ? [measured] : []), ...ranges.map((r) => r.range)].flatMap((range) => {
    const [low, high] = [range.low, range.high].map((x) => convertRangeEnd(x, range.unit, unit))
    return low?.kind === 'value' && high?.kind === 'value' && low.value !== high.value
      ? [{ range, low: low.value, high: high.value }]
      : []
  })
  const [fit] = fits
  if (!fit) return null
  const { range } = fit
  const middle = (range.low + range.high) / 2
  const [at, above] = [middle, middle + (allowed?.at(middle) ?? 0)].map((x) => convert(x, range.unit, unit))
  const T =
    allowed && range === measured && at?.kind === 'value' && above?.kind === 'value'
      ? Math.abs(above.value - at.value)
      : null
  return {
    lo: Math.min(fit.low, fit.high),
    hi: Math.max(fit.low, fit.high),
    T: T === 0 ? null : T,
    tau: damping_s,
    lines:
      range === measured
        ? [...tripLines(relays, range.unit, unit), ...(needsRoot === true ? [] : signalLines(fit))]
        : [],
  }
}
