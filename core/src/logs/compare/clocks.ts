import { fitLine } from '../../numeric/fit-line.ts'
import { sayNumber } from '../../quantity/round.ts'
import { studentQuantile } from '../../statistics/student-t.ts'

/** The lag of two series within a part of their time. */
export interface LagOfPart {
  /** Middle of the part, ms. */
  readonly at: number
  readonly lag_s: number
}
/** Two clocks that do not run alike. */
export interface ClocksApart {
  /** By how much the lag grows in a day, s, with its standard uncertainty. */
  readonly perDay_s: number
  readonly uPerDay_s: number
  /** Middle of the first part that tells its lag, ms. */
  readonly from: number
  /** By the line: the lag there, and at the last of the parts, s. */
  readonly first_s: number
  readonly last_s: number
  /** By how much the lags of parts lie beside the line, s. */
  readonly scatter_s: number
}

const MS_A_DAY = 86_400_000

/** The lag at a time, ms: that of the whole, or by the line where two clocks do not run alike. */
export const lagAt = (time: number, lag_ms: number, clocks: ClocksApart | null): number =>
  clocks ? 1000 * (clocks.first_s + (clocks.perDay_s * (time - clocks.from)) / MS_A_DAY) : lag_ms
/** With fewer parts a line says nothing of its own scatter. */
const FEWEST_PARTS = 4
/** One pair of logs in a thousand whose clocks run alike may be told otherwise. */
const SURE = 0.9995
/** A lag is told to a share of a step: less than this much of one is none. */
const LEAST_STEPS = 0.5

/**
 * Whether the lag of two logs goes away over their time, as it does where each has a clock of its own: a line through
 * the lags of parts. null: they run alike, or too few parts tell their lag.
 * @param step_s - of the common base on which the lags were found
 */
export function clocksApart(lags: readonly LagOfPart[], step_s: number): ClocksApart | null {
  const [first, last] = [lags[0], lags.at(-1)]
  if (lags.length < FEWEST_PARTS || !first || !last) return null
  const line = fitLine(lags.map((l) => [(l.at - first.at) / MS_A_DAY, l.lag_s] as const))
  if (!line) return null
  // The lag of a part is told to some share of a step even where all lie on one line.
  const scatter = Math.max(line.scatter, step_s / 20)
  const uPerDay_s = scatter / Math.sqrt(line.sxx)
  const [first_s, last_s] = [line.at(0), line.at((last.at - first.at) / MS_A_DAY)]
  // Few parts do not know their scatter well.
  const least = studentQuantile(SURE, lags.length - 2) * uPerDay_s
  if (Math.abs(line.slope) <= least || Math.abs(last_s - first_s) < LEAST_STEPS * step_s) return null
  return { perDay_s: line.slope, uPerDay_s, from: first.at, first_s, last_s, scatter_s: line.scatter }
}

/**
 * What is said of two clocks that do not run alike: what was taken out, and whether that is enough.
 * @param name - of the log whose lag it is
 * @param step_s - of the common base on which the lags were found
 */
export function sayClocks(c: ClocksApart, name: string, step_s: number): string {
  const at = (x: number) => `${x < 0 ? '−' : ''}${sayNumber(Math.abs(x), 2)} s`
  // Whatever comes later and later has a clock that is fast.
  const goes = c.perDay_s > 0 ? 'gains' : 'loses'
  const by = `${sayNumber(Math.abs(c.perDay_s), 2)} ± ${sayNumber(2 * c.uPerDay_s, 1)} s a day`
  return `The lag goes from ${at(c.first_s)} to ${at(c.last_s)}: the clock of “${name}” ${goes} ${by} on the other one, or the way between the two changed. The lag of each time is taken out. ${
    c.scatter_s > step_s
      ? `But it wanders by ${sayNumber(c.scatter_s, 2)} s about that line: go by where both stand still, or choose a shorter stretch.`
      : ''
  }`.trimEnd()
}
