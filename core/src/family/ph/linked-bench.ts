import { fitLine } from '../../numeric/fit-line.ts'
import { isStill } from '../../procedure/still.ts'
import { sayNumber } from '../../quantity/round.ts'
import { asLeftIn, CHECK_WITHIN_PH, MOST_C } from './bench-calibration.ts'
import { bufferProblem } from './buffer-check.ts'

/** A quantity over the last seconds in which nothing was moved. */
interface Trend {
  readonly value: number
  readonly scatter: number
  readonly slope: number
  readonly n: number
  readonly over_s: number
}
/** A linked pH sensor on the bench as it stands now. */
export interface LinkedBeaker {
  /** pH of the bottle it stands in, as somebody put it there; null in air. */
  readonly standsIn: number | null
  readonly mV: Trend
  readonly t: Trend
  /** What it shows itself over the same seconds: behind its damping, so later than the voltage. */
  readonly pv: Trend
}
/** What was taken in a bottle over the link. */
export interface LinkedReading {
  readonly buffer: number
  readonly mV: number
  readonly t: number
  readonly pv: number
}

/** Looked at for so long without a hand on it, s; typical. */
const LEAST_S = 10
/** Voltage and temperature stand by the rule of the procedure at a loop. */
const STEADY_MV = 4

/** What it shows over its last seconds. @param samples - oldest first @param over_s - no further back */
export function shownOver(
  samples: readonly { readonly t_s: number; readonly PV: number }[],
  over_s: number,
): Trend | null {
  const end = samples.at(-1)
  if (!end) return null
  const window = samples.filter((s) => s.t_s >= end.t_s - over_s)
  const line = fitLine(window.map((s) => [s.t_s, s.PV] as const))
  return {
    value: line?.meanY ?? end.PV,
    scatter: line?.scatter ?? 0,
    slope: line?.slope ?? 0,
    n: window.length,
    over_s: end.t_s - (window[0]?.t_s ?? end.t_s),
  }
}

/** What is left of a drift behind the damping may be so many times what a check allows. */
const SETTLED_TIMES = 3
/** A page asks for more than the server does: what it opens is not refused a moment later. */
export const ON_PAGE = 2 / 3

/** Why what it shows does not stand yet, or null. @param share - of what may still move */
export function beakerMoves(b: LinkedBeaker, share = 1): string | null {
  if (b.standsIn === null) return 'It stands in no bottle: put it into the first one.'
  const over_s = Math.min(b.mV.over_s, b.t.over_s)
  if (over_s < LEAST_S - 0.5)
    return `Waits for ${LEAST_S} s in this bottle; ${sayNumber(Math.floor(over_s), 3)} s are over.`
  const still = (t: Trend, allowed: number) => isStill({ ...t, window_s: t.over_s }, allowed)
  if (!still(b.mV, STEADY_MV)) return `The voltage still moves: ±${sayNumber(2 * b.mV.scatter, 2)} mV.`
  if (!still(b.t, 2 * MOST_C)) return 'The temperature still moves.'
  return still(b.pv, share * SETTLED_TIMES * CHECK_WITHIN_PH)
    ? null
    : 'Its pH still moves behind its damping.'
}

/** Why a bottle cannot be taken yet, or null. @param buffer - pH on it at 25 °C, as typed */
export function linkedWaits(
  buffer: number | null,
  b: LinkedBeaker,
  earlier: readonly LinkedReading[],
  share = 1,
): string | null {
  const moves = beakerMoves(b, share)
  if (moves !== null) return moves
  if (buffer === null) return 'Type the buffer on the bottle.'
  return bufferProblem(
    { buffer, mV: b.mV.value, t: b.t.value },
    earlier.map((r) => ({ ...r })),
  )
}

/** What the sensor itself shows in a bottle after it was written, against the bottle. */
export const linkedCheck = (buffer: number, b: LinkedBeaker) => asLeftIn(buffer, b.t.value, b.pv.value)
