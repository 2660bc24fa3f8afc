import type { LoopDocument } from '../loop/document.ts'
import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, differenceIn, printedUnit } from '../quantity/units.ts'
import { sayRelay, type RelayPlan } from '../signal/relay-plan.ts'
import { stageOf } from '../signal/stage.ts'

type Of = Pick<LoopDocument, 'path' | 'trips'>

/** What stands in the unit of the transmitter's range and is no end of it. */
export interface LeftBehind {
  /** The unit that its numbers were typed in. */
  readonly from: string
  readonly to: string
  /** Each thing as it would now be read. */
  readonly says: readonly string[]
  /** The same in the new unit, as fields to set; null where one unit cannot become the other. */
  readonly taken: readonly { readonly path: string; readonly value: unknown }[] | null
}

/** Enough that no point moves by what anybody can set. */
const FIGURES = 7
const rounded = (x: number) => Number(x.toPrecision(FIGURES))

function relayIn(r: RelayPlan, from: string, to: string): RelayPlan | null {
  const at = (x: number) => {
    const c = convertRangeEnd(x, from, to)
    return c.kind === 'value' ? rounded(c.value) : NaN
  }
  const waves = differenceIn(r.waves, from, to)
  const trip =
    r.trip.kind === 'points'
      ? { ...r.trip, onAt: at(r.trip.onAt), offAt: at(r.trip.offAt) }
      : { ...r.trip, from: at(r.trip.from), to: at(r.trip.to) }
  const numbers = trip.kind === 'points' ? [trip.onAt, trip.offAt] : [trip.from, trip.to]
  return waves === null || numbers.some(Number.isNaN) ? null : { ...r, trip, waves: rounded(waves) }
}

/**
 * What a new unit of the range leaves behind: limits of the sensor and relays whose numbers are still those of the
 * old one, so that 80 bar would be read as 80 psi. Null where nothing is, or where it was changed too.
 * @param before - as it is stored; now - as it stands on the bench
 */
export function leftBehind(before: Of, now: Of): LeftBehind | null {
  const [old, range] = [stageOf(before.path, 'transmitter')?.range, stageOf(now.path, 'transmitter')?.range]
  if (!old || !range || old.unit === range.unit) return null
  const [from, to] = [old.unit, range.unit]
  const [was, limits] = [stageOf(before.path, 'sensor')?.limits, stageOf(now.path, 'sensor')?.limits]
  const keepsLimits = limits !== undefined && was?.low === limits.low && was.high === limits.high
  const same = (r: RelayPlan) =>
    before.trips.some((b) => b.name === r.name && JSON.stringify(b.trip) === JSON.stringify(r.trip))
  const relays = now.trips.filter(same)
  if (!keepsLimits && relays.length === 0) return null
  const unit = printedUnit(to)
  const end = (x: number) => {
    const c = convertRangeEnd(x, from, to)
    return c.kind === 'value' ? rounded(c.value) : null
  }
  const ends = keepsLimits ? { low: end(limits.low), high: end(limits.high) } : null
  const trips = now.trips.map((r) => (same(r) ? relayIn(r, from, to) : r))
  const isPossible = ends?.low !== null && ends?.high !== null && !trips.includes(null)
  return {
    from,
    to,
    says: [
      ...(keepsLimits
        ? [`Limits of the sensor: ${sayNumber(limits.low)} to ${sayNumber(limits.high)} ${unit}`]
        : []),
      ...relays.map((r) => sayRelay(r, unit)),
    ],
    taken: isPossible
      ? [
          ...(ends ? [{ path: 'path.sensor.limits', value: ends }] : []),
          ...(relays.length > 0 ? [{ path: 'trips', value: trips }] : []),
        ]
      : null,
  }
}
