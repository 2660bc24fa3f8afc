import { bestPosition, type BestPosition } from '../logs/best-position.ts'
import { median } from '../numeric/median.ts'
import type { PartState } from '../loop/parts.ts'
import { sayNumber } from '../quantity/round.ts'
import type { PositionTry } from './site-shape.ts'

/** What is tried further from the calculated place than the larger of these is another place: mm, and of the spacing; typical. */
const FAR = { mm: 10, share: 0.05 }

/** Two readings of a signal that are nearer than this are the same signal, %; typical. */
const SAME_SIGNAL_PCT = 2

/** Where a sensor belongs by the calculation, as its rail is read. */
export interface CalculatedPlace {
  readonly at: number
  readonly spacing_mm: number
  /** Millimetres from one mark of the rail to the next. */
  readonly step_mm: number
}

export interface PositionJudged {
  readonly state: PartState
  readonly says: string
  readonly peak: BestPosition
  /** Where to put the sensor for the next try; null where nothing more is asked. */
  readonly next: number | null
}

/**
 * Whether the sensor stands where it hears best. The parabola says where to try; the reading there decides.
 * @param tries - in the order in which they were made: the last one is where the sensor stands
 * @param unit - of the rail, as it is printed; empty for index numbers
 * @param calculated - where pipe and fluid put it; null where that is not known
 */
export function judgePosition(
  tries: readonly PositionTry[],
  unit: string,
  calculated: CalculatedPlace | null = null,
): PositionJudged {
  const peak = bestPosition(tries.map((t) => [t.at, t.signal_pct]))
  const at = (p: number) => `${sayNumber(p, 4)}${unit === '' ? '' : ` ${unit}`}`
  const [last] = tries.slice(-1)
  const places = [...new Set(tries.map((t) => t.at))].sort((a, b) => a - b)
  if (!last || peak.state === 'NEED_MORE' || peak.best === null)
    return {
      state: 'notYet',
      says: `Not judged: ${places.length === 0 ? 'no position was' : places.length === 1 ? 'one position was' : 'two positions were'} tried. Three are needed: the calculated one, one nearer and one further.`,
      peak,
      next: null,
    }
  const top = tries.reduce((a, b) => (b.signal_pct > a.signal_pct ? b : a))
  const step = median(places.slice(1).map((p, i) => p - (places[i] ?? 0)))
  if (peak.state === 'OUTSIDE')
    return {
      state: 'look',
      says: `The signal still grows beyond ${at(peak.best > top.at ? (places.at(-1) ?? top.at) : (places[0] ?? top.at))}: go on to ${at(peak.best)}.`,
      peak,
      next: peak.best,
    }
  if (peak.state === 'NO_PEAK') {
    const end = top.at === places[0] ? -1 : top.at === places.at(-1) ? 1 : 0
    const next = top.at + end * step
    return {
      state: 'look',
      says:
        end === 0
          ? `The tries make no peak: the readings scatter, or the couplant is not even. Best so far ${sayNumber(top.signal_pct, 3)} % at ${at(top.at)}; try on both sides of it again.`
          : `The tries make no peak: best so far ${sayNumber(top.signal_pct, 3)} % at ${at(top.at)}, the last place on that side. Go on to ${at(next)}.`,
      peak,
      next: end === 0 ? null : next,
    }
  }
  const nearest = Math.min(...places.map((p) => Math.abs(p - (peak.best ?? p))))
  if (nearest > step / 2 || ((peak.expected ?? 0) > top.signal_pct + SAME_SIGNAL_PCT && nearest > step / 4))
    return {
      state: 'look',
      says: `The tries peak at ${at(peak.best)}, where ${sayNumber(peak.expected ?? 0, 3)} % is to be expected: measure there. The reading decides, not the curve.`,
      peak,
      next: peak.best,
    }
  if (last.signal_pct < top.signal_pct - SAME_SIGNAL_PCT)
    return {
      state: 'look',
      says: `It stands at ${at(last.at)} with ${sayNumber(last.signal_pct, 3)} %, and at ${at(top.at)} it had ${sayNumber(top.signal_pct, 3)} %: put it back there and read again.`,
      peak,
      next: top.at,
    }
  const off = calculated ? (last.at - calculated.at) * calculated.step_mm : 0
  if (calculated && Math.abs(off) > Math.max(FAR.mm, FAR.share * Math.abs(calculated.spacing_mm)))
    return {
      state: 'look',
      says: `It hears best at ${at(last.at)}, and the calculation puts it at ${at(calculated.at)}, ${sayNumber(Math.abs(off), 3)} mm away: pipe, wall, liner, fluid, traverses or rail are not as entered, or this is an echo of another way.`,
      peak,
      next: null,
    }
  return {
    state: 'good',
    says: `It stands at ${at(last.at)} with ${sayNumber(last.signal_pct, 3)} %, the best of ${tries.length} tries; they peak at ${at(peak.best)}${peak.u === null ? '' : ` ± ${sayNumber(2 * peak.u, 2)}`}.`,
    peak,
    next: null,
  }
}
