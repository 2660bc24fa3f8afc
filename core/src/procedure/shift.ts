import { sayNumber } from '../quantity/round.ts'

/** What one procedure found and left of the zero, % of span; null where it read none. */
export interface ZeroRead {
  readonly at: string
  readonly found_pct: number | null
  readonly left_pct: number | null
  /** Simulated readings say nothing of a real device, nor the other way. */
  readonly simulated: boolean
}
/** How far the zero went between what the one before left and what this one found. */
export interface Shift {
  readonly shift_pct: number
  readonly days: number
  readonly since: string
}

const DAY_MS = 86_400_000
/** A rate over less than this is scatter. */
const LEAST_DAYS = 30
const YEAR_DAYS = 365.25

/** @param reads - newest first @returns one for each, null where nothing before it left a zero */
export function shiftsSince(reads: readonly ZeroRead[]): (Shift | null)[] {
  return reads.map((now, i) => {
    if (now.found_pct === null) return null
    const before = reads.slice(i + 1).find((r) => r.simulated === now.simulated && zeroLeft(r) !== null)
    const left = before ? zeroLeft(before) : null
    return before && left !== null
      ? {
          shift_pct: now.found_pct - left,
          days: (Date.parse(now.at) - Date.parse(before.at)) / DAY_MS,
          since: before.at,
        }
      : null
  })
}
/** Not adjusted, it was left as it was found. */
const zeroLeft = (r: ZeroRead): number | null => r.left_pct ?? r.found_pct

/** The same sign three times, each as large as the one before at least: no zero stays where it is put. */
const isGrowing = ([a, b, c]: readonly number[]): boolean =>
  a !== undefined &&
  b !== undefined &&
  c !== undefined &&
  Math.sign(a) === Math.sign(b) &&
  Math.sign(b) === Math.sign(c) &&
  Math.abs(a) >= Math.abs(b) &&
  Math.abs(b) >= Math.abs(c) &&
  c !== 0

/** The newest shift in a sentence, and what it means that it grows; null where there is none. */
export function sayShift(shifts: readonly (Shift | null)[]): string | null {
  const told = shifts.filter((s) => s !== null)
  const [last] = told
  if (!last) return null
  const size = `${last.shift_pct > 0 ? '+' : ''}${sayNumber(last.shift_pct, 2)} % of span`
  const rate =
    last.days >= LEAST_DAYS ? `, ${sayNumber((last.shift_pct * YEAR_DAYS) / last.days, 2)} % a year` : ''
  const grows = isGrowing(told.map((s) => s.shift_pct))
    ? ' It went the same way three times, and further each time: a trim only hides that. Look for a filled line, a leak of the fill fluid, a stressed flange.'
    : ''
  return `Zero shifted by ${size} since the one before (${Math.round(last.days)} days${rate}).${grows}`
}
