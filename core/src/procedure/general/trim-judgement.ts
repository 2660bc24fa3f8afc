import { sayNumber } from '../../quantity/round.ts'
import { fractionOf } from '../../signal/current-range.ts'
import { applyTransfer, LINEAR } from '../../signal/transfer.ts'
import { atMost } from '../../verify/tolerance.ts'
import { wrote, type Outcome } from '../outcome.ts'
import { heldReadingsOf, readingsOf, type ProcedureRun } from '../run.ts'
import { allowedOf } from '../allowed.ts'

/** Points prove a range where they reach this near to both of its ends, % of span. */
const ENDS_PCT = 10

/** Two readings at one input that differ by more than this share of the tolerance: it hangs or drifts. */
const SPREAD_SHARE = 0.5
/** Inputs this near to each other are the same, % of span. */
const SAME_PCT = 1

interface PointError {
  readonly level_pct: number
  readonly sensor_pct: number
  /** Largest of sensor, output and whole, % of span; each has to be inside. */
  readonly worst_pct: number
}

/** Errors of a phase: digital reading, current for that reading, and both together; % of the documented span. */
function errorsOf(run: ProcedureRun, phase: 'asFound' | 'asLeft'): PointError[] {
  const { range, transfer = LINEAR } = run.started.context
  const span = range.high - range.low
  const out = (x: number) => applyTransfer(transfer, (x - range.low) / span)
  return readingsOf(run, phase).map(({ applied, pv, mA }) => {
    const sensor = (pv - applied) / span
    const output = mA === null ? 0 : fractionOf(mA) - out(pv)
    // Under a root the same pressure error is any flow error near zero: each part is held against the tolerance.
    const whole = mA === null || transfer.kind !== 'linear' ? 0 : fractionOf(mA) - out(applied)
    return {
      level_pct: (100 * (applied - range.low)) / span,
      sensor_pct: 100 * sensor,
      worst_pct: 100 * Math.max(...[sensor, output, whole].map(Math.abs)),
    }
  })
}

const isWhole = (points: readonly PointError[]): boolean =>
  Math.min(...points.map((p) => p.level_pct)) <= ENDS_PCT &&
  Math.max(...points.map((p) => p.level_pct)) >= 100 - ENDS_PCT

/** Largest difference of two readings at one input, % of span. */
const spread_pct = (points: readonly PointError[]): number =>
  points.reduce((most, p, i) => {
    const same = points.slice(0, i).filter((q) => Math.abs(q.level_pct - p.level_pct) <= SAME_PCT)
    return Math.max(most, ...same.map((q) => Math.abs(q.sensor_pct - p.sensor_pct)))
  }, 0)

/** Judged by the readings after the last write: their worst error, and whether they reach over the range. */
export function judgeTrim(run: ProcedureRun): Outcome {
  const T = run.started.context.tolerance_pct
  const adjusted = wrote(run)
  const phase = adjusted ? 'asLeft' : 'asFound'
  const words = adjusted ? 'as left' : 'as found'
  const points = errorsOf(run, phase)
  if (points.length === 0)
    return adjusted
      ? { result: 'notVerified', says: ['Nobody has read it since it was adjusted.'] }
      : { result: 'notDone', says: ['Nothing was read and nothing changed.'] }
  const worst = Math.max(...points.map((p) => p.worst_pct))
  const told = `Largest error ${words} ${sayNumber(worst, 3)} % of span at ${points.length} ${points.length === 1 ? 'point' : 'points'}, allowed ±${sayNumber(T, 3)} %.`
  if (!atMost(worst, T)) return { result: 'out', says: [told] }
  const spread = spread_pct(points)
  if (spread > SPREAD_SHARE * T)
    return {
      result: 'look',
      says: [
        told,
        `At one input it read ${sayNumber(spread, 3)} % apart on the two ways: it hangs, or it drifts while it is read. No trim removes that.`,
      ],
    }
  if (!isWhole(points))
    return {
      result: adjusted ? 'notVerified' : 'notJudged',
      says: [told, 'It was not read over the whole range: the span is not proved. Verify it.'],
    }
  return { result: adjusted ? 'adjusted' : 'untouched', says: [told] }
}

/** The output by the currents that were held and measured. */
export function judgeOutput(run: ProcedureRun): Outcome {
  const adjusted = wrote(run)
  const points = heldReadingsOf(run, adjusted ? 'asLeft' : 'asFound')
  if (points.length === 0)
    return adjusted
      ? { result: 'notVerified', says: ['Nobody has measured the current since it was adjusted.'] }
      : { result: 'notDone', says: ['Nothing was measured and nothing changed.'] }
  const T = allowedOf(run.started.context).mA
  const worst = Math.max(...points.map((p) => Math.abs(p.mA - p.held)))
  const told = `Largest error of the current ${sayNumber(worst, 3)} mA at ${points.length} held currents, allowed ±${sayNumber(T, 3)} mA.`
  if (!atMost(worst, T)) return { result: 'out', says: [told] }
  return {
    result: adjusted ? 'adjusted' : 'untouched',
    says: [told, 'The output only: the sensor was not looked at.'],
  }
}

/** What the receiver shows of held currents against what it should; null where nobody has told its range. */
export function judgeReceiver(run: ProcedureRun, phase: 'asFound' | 'asLeft'): Outcome | null {
  const { receiver, tolerance_pct } = run.started.context
  const points = heldReadingsOf(run, phase)
  if (!receiver || points.length === 0) return null
  const should = (mA: number) => {
    const i = (mA - 4) / 4
    const [below, above] = [receiver.shows[Math.floor(i)], receiver.shows[Math.ceil(i)]]
    return Number.isInteger(i) ? (below ?? NaN) : ((below ?? NaN) + (above ?? NaN)) / 2
  }
  const says: string[] = []
  let worst = 0
  for (const p of points) {
    if (p.shown === null) continue
    const off = p.shown - should(p.held)
    worst = Math.max(worst, Math.abs(off) / receiver.within)
    if (!atMost(Math.abs(off), receiver.within))
      says.push(
        `At ${sayNumber(p.held)} mA it shows ${sayNumber(p.shown, 5)} ${receiver.unit} and should show ${sayNumber(should(p.held), 5)}.`,
      )
  }
  const current = Math.max(...points.map((p) => Math.abs(p.mA - p.held)))
  const T = 0.16 * tolerance_pct
  if (!atMost(current, T))
    says.push(
      `The current is up to ${sayNumber(current, 3)} mA off what is held, allowed ±${sayNumber(T, 3)} mA.`,
    )
  if (says.length > 0) return { result: 'out', says }
  return {
    result: 'untouched',
    says: [
      `Receiver within ±${sayNumber(receiver.within, 3)} ${receiver.unit} at ${points.length} held currents; the current within ±${sayNumber(T, 3)} mA.`,
    ],
  }
}
