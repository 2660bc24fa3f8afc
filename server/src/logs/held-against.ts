import { factsOf, type FactsOf } from '@calm/core/loop/facts'
import { convert, convertRangeEnd } from '@calm/core/quantity/units'

/** What of a loop a channel of its log is held against, in the channel's unit; null where it measures something else. */
export interface HeldAgainst {
  readonly lo: number
  readonly hi: number
  /** Tolerance at the middle of the range; null where the loop has none. */
  readonly T: number | null
  /** Damping of the device, s. */
  readonly tau: number
}

/** A rate is counted by the time that stands under its stroke. */
export const perOf = (unit: string | null): 's' | 'min' | 'h' | 'd' | null => {
  const told = /\/(s|min|h|d)$/.exec(unit ?? '')?.[1]
  return told === 's' || told === 'min' || told === 'h' || told === 'd' ? told : null
}

/** The range and tolerance of the loop, as its benches have them, in the unit of a channel. */
export function heldAgainst(document: FactsOf, unit: string | null): HeldAgainst | null {
  if (unit === null) return null
  const { range: measured, ranges, allowed, damping_s } = factsOf(document)
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
  }
}
