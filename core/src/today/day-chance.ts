import { chanceOf } from '../plan/usual-time.ts'

/** A job of somebody's turn: when it is planned, and how long this person usually needs for it. */
export interface ChanceJob {
  /** Instants, ms: when the way to it begins, and when the work itself. */
  readonly leaves: number
  readonly start: number
  readonly end: number
  /** It is under way, since `start`: some of it is behind. */
  readonly begun: boolean
  readonly usual: number
  /** Scatter of the logarithm. */
  readonly spread: number
}
export interface ChanceTurn {
  readonly from: number
  readonly to: number
  readonly breaks: readonly { readonly from: number; readonly to: number }[]
}
/** How likely a turn ends in time, and when it usually does. */
export interface DayChance {
  /** From 0 to 1. */
  readonly chance: number
  /** Usual end of it all, with the way back, ms. */
  readonly ends: number
}

const MINUTE_MS = 60_000
const LEAST_LEFT = 0.1
const minutes = (ms: number) => ms / MINUTE_MS

/**
 * Chance that everything that is left of a turn ends within it: ways, set-ups, breaks and what has to be waited for are
 * certain, the work is as long as it usually is.
 * @param now - what is done by then is not part of `jobs`; before the turn nothing has begun
 * @param back_min - way back from the last job
 * @returns null where nothing is left, or the turn is over
 */
export function dayChance(
  turn: ChanceTurn,
  jobs: readonly ChanceJob[],
  now: number,
  back_min: number,
): DayChance | null {
  const begin = Math.max(now, turn.from)
  const last = Math.max(...jobs.map((j) => j.end))
  if (jobs.length === 0 || begin >= turn.to) return null
  const breaks = turn.breaks.reduce(
    (sum, b) => sum + Math.max(0, minutes(b.to - Math.max(b.from, begin))) * (b.from < last ? 1 : 0),
    0,
  )
  const ways = jobs.reduce((sum, j) => sum + (j.begun ? 0 : minutes(j.start - j.leaves)), 0)
  const leftOf = (j: ChanceJob) => minutes(j.begun ? Math.max(0, j.end - begin) : j.end - j.start)
  const work = jobs.reduce((sum, j) => sum + leftOf(j), 0)
  // Behind the plan nobody waits any more: then only ways and breaks are left besides the work.
  const fixed = back_min + Math.max(ways + breaks, minutes(last - begin) - work)
  const left = jobs.map((j) => ({
    // Of what was begun there is always something left, however long it has taken.
    usual: j.usual * Math.max(LEAST_LEFT, leftOf(j) / minutes(j.end - j.start)),
    spread: j.spread,
  }))
  const usual = left.reduce((sum, j) => sum + j.usual, 0)
  return {
    chance: chanceOf(minutes(turn.to - begin), fixed, left),
    ends: begin + (fixed + usual) * MINUTE_MS,
  }
}

const TENTHS = 10
const NEARLY = 0.95
/** A chance as people say it: the model is not good to a hundredth. */
export const sayChance = (chance: number): string =>
  chance >= NEARLY
    ? 'nearly always'
    : chance <= 1 - NEARLY
      ? 'hardly ever'
      : sayTenths(Math.min(9, Math.max(1, Math.round(chance * TENTHS))))
const sayTenths = (n: number) => (n === 1 ? 'about once in 10' : `about ${n} times in 10`)
