import { roundText, sayNumber } from '../quantity/round.ts'

/** What a share over the whole is judged from. */
export interface Counted {
  /** Between one count and the next, s, as they came. */
  readonly gaps: readonly number[]
  readonly total: number
  readonly good: number
  readonly window_s: number
  readonly planned_s: number
  readonly downtime_s: number
  readonly ideal_s: number
  readonly least_s: number
}

/** This many of the cycles decide what is usual. */
const MOST = 0.5
const share = (list: readonly number[], is: (x: number) => boolean) =>
  list.length === 0 ? 0 : list.filter(is).length / list.length
const s = (x: number) => `${sayNumber(x, 4)} s`

/** Numbers that contradict each other, before anything is reckoned with them; the right cause of each. */
export function contradictions(c: Counted): string[] {
  const out: string[] = []
  if (c.good > c.total)
    out.push(
      `${c.good} good out of ${c.total} counted is impossible: the two numbers are from different times, or strokes are missed, as by a filter longer than the signal.`,
    )
  if (c.planned_s > c.window_s * 1.0001)
    out.push(
      `The planned time of ${s(c.planned_s)} is longer than the ${s(c.window_s)} that were counted: count the whole of it, or plan what was counted.`,
    )
  if (c.downtime_s >= c.planned_s)
    out.push(
      `It stood still for ${s(c.downtime_s)} of a planned time of ${s(c.planned_s)}: the planned time is too short for this window.`,
    )
  return out
}

/** Why performance comes out above the whole: what of the numbers is wrong, by the cycles themselves. */
export function performanceCause(c: Counted, performance: number): string {
  const says = `Performance comes to ${roundText(100 * performance, 1)} %, and nothing runs better than its ideal. `
  if (share(c.gaps, (g) => g < c.least_s) > MOST / 5)
    return `${says}${roundText(100 * share(c.gaps, (g) => g < c.least_s), 0)} % of the cycles are shorter than ${s(c.least_s)}: strokes are counted twice. Look at bounce and filter.`
  const run_s = c.gaps.reduce((a, b) => a + b, 0)
  if (share(c.gaps, (g) => g >= c.ideal_s * 0.999) >= MOST && run_s > c.planned_s - c.downtime_s)
    return `${says}The cycles take their time, but they fill ${s(run_s)} and only ${s(c.planned_s)} are planned: the planned time is too short.`
  return `${says}Most cycles are faster than the ideal of ${s(c.ideal_s)}: the ideal cycle is set too long.`
}
