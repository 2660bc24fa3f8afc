import { median } from '../numeric/median.ts'
import { normalCdf } from '../statistics/normal.ts'

/** How long somebody usually needs for a procedure, minutes. */
export interface UsualTime {
  /** Of everybody else, towards the standard where few did it. */
  readonly procedure: number
  readonly ownMedian: number | null
  readonly usual: number
  /** Scatter of the logarithm. */
  readonly spread: number
  /** To be planned: the next five minutes. */
  readonly minutes: number
  readonly p90: number
  readonly n: number
}

const OWN = 12
const OTHERS = 40
const USUAL_SPREAD = 0.3
const Z90 = 1.281_551_565_544_600_4

/** @param own - the person's finished runs in their order, minutes; others - everybody else's */
export function usualTime(standard: number, others: readonly number[], own: readonly number[]): UsualTime {
  const [theirs, mine] = [others.slice(-OTHERS), own.slice(-OWN)]
  const [N, n] = [theirs.length, mine.length]
  const procedure =
    N > 0 ? Math.exp((N * Math.log(median(theirs)) + 5 * Math.log(standard)) / (N + 5)) : standard
  const ownMedian = n > 0 ? median(mine) : null
  const usual =
    ownMedian === null ? procedure : Math.exp((n * Math.log(ownMedian) + 3 * Math.log(procedure)) / (n + 3))
  const off =
    ownMedian === null ? [] : mine.map((x) => Math.min(1, Math.max(-1, Math.log(x / ownMedian))) ** 2)
  const spread =
    n > 0 ? Math.sqrt((4 * USUAL_SPREAD ** 2 + off.reduce((a, b) => a + b, 0)) / (4 + n)) : USUAL_SPREAD
  return {
    procedure,
    ownMedian,
    usual,
    spread,
    minutes: 5 * Math.ceil(usual / 5 - 1e-9),
    p90: usual * Math.exp(Z90 * spread),
    n,
  }
}

/**
 * Chance that jobs one after another end within a time: exact for one, near for more. Say “about 7 in 10”.
 * @param left - minutes there are; fixed - of them walking, setting up, waiting, breaks
 */
export function chanceOf(
  left: number,
  fixed: number,
  jobs: readonly { readonly usual: number; readonly spread: number }[],
): number {
  if (left <= fixed) return 0
  if (jobs.length === 0) return 1
  const means = jobs.map((j) => j.usual * Math.exp(j.spread ** 2 / 2))
  const E = means.reduce((a, b) => a + b, 0)
  const variance = jobs.reduce((sum, j, i) => sum + (means[i] ?? 0) ** 2 * (Math.exp(j.spread ** 2) - 1), 0)
  const s2 = Math.log(1 + variance / E ** 2)
  const room = Math.log(left - fixed) - Math.log(E) + s2 / 2
  return s2 > 0 ? normalCdf(room / Math.sqrt(s2)) : room >= 0 ? 1 : 0
}
