import { sayNumber } from '../quantity/round.ts'
import { againstCounter, type TotalAsked } from './total.ts'

/** The total of a stretch, as far as a counter can be held against it. */
export interface StretchTotal {
  readonly forward: number
  readonly net: number
  /** Expanded uncertainty by the noise alone, k = 2. */
  readonly U: number
  /** False where gaps were left out. */
  readonly complete: boolean
}

export interface CounterJudged {
  /** null: not judged. */
  readonly agrees: boolean | null
  readonly says: string
}

/**
 * Whether a counter that was read at both ends of a stretch counted what the log makes of it. Nothing is good that was
 * not told: without the uncertainty of the rate there is a difference, and no verdict.
 * @param rateU_pct - the logged rate is known to, % of reading, k = 2; null: nobody said
 * @param unit - of both, as printed
 */
export function judgeCounter(
  total: StretchTotal,
  counter: NonNullable<TotalAsked['totalizer']>,
  rateU_pct: number | null,
  unit: string,
): CounterJudged {
  const of = (x: number) => `${sayNumber(x, 6)} ${unit}`
  if (!total.complete)
    return { agrees: null, says: 'Not judged: gaps were left out of the total, and the counter went on.' }
  const share = ((rateU_pct ?? 0) / 100) * total.net
  const told = againstCounter(counter, total.forward, total.net, Math.hypot(total.U, share))
  const made = counter.net === true ? total.net : total.forward
  if (told.difference_pct === null || told.En === null)
    return { agrees: null, says: 'Not judged: the counter did not move.' }
  const off = Math.abs(told.difference_pct)
  const says = `The counter went on by ${of(told.volume)}, the log makes ${of(made)} of it: ${sayNumber(off, 3)} % ${told.difference_pct >= 0 ? 'more' : 'less'}.`
  if (rateU_pct === null)
    return { agrees: null, says: `${says} Not judged: nobody said how well the rate is known.` }
  const agrees = Math.abs(told.En) <= 1
  return {
    agrees,
    says: `${says} En is ${sayNumber(Math.abs(told.En), 3)}: ${agrees ? 'they agree' : 'they do not agree'}.`,
  }
}
