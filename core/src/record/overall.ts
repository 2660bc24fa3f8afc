import type { LoopDocument } from '../loop/document.ts'
import { verdictOf, VERDICT_WORDS, type Judgement, type VerdictClass } from '../verify/verdict.ts'
import type { Run } from './run.ts'

/** What a whole verification comes to, for the head of its paper. */
export interface Overall {
  /** Null while something stands against a verdict. */
  readonly verdict: VerdictClass | null
  readonly says: string
  /** The day on which the loop is due again, or why it is due at once; null where no interval is set. */
  readonly due: string | null
}

const IN: readonly (VerdictClass | null)[] = ['PASS', 'CONDITIONAL_PASS']

function addMonths(day: string, months: number): string {
  const d = new Date(`${day}T00:00:00.000Z`)
  const last = new Date(Date.UTC(d.getUTCFullYear(), d.getUTCMonth() + months + 1, 0)).getUTCDate()
  return new Date(Date.UTC(d.getUTCFullYear(), d.getUTCMonth() + months, Math.min(d.getUTCDate(), last)))
    .toISOString()
    .slice(0, 10)
}

/**
 * One verdict over both phases: what was left counts, and how it was found is said. Without a last reading after an
 * adjustment there is none.
 */
export function overallOf(
  run: Pick<Run, 'state' | 'leftAsFound' | 'adjustments' | 'startedAt'>,
  document: Pick<LoopDocument, 'interval_months'>,
  asFound: Judgement | null,
  asLeft: Judgement | null,
): Overall {
  const last = run.leftAsFound ? asFound : asLeft
  const found = verdictOf(asFound)
  const verdict = verdictOf(last)
  const open = last?.open[0] ?? asFound?.open[0]
  const interval = document.interval_months
  if (open !== undefined) return { verdict: null, says: `Not judged: ${open}`, due: null }
  if (!last || verdict === null)
    return {
      verdict: null,
      says:
        run.adjustments.length > 0
          ? 'Not judged: it was adjusted and not read since.'
          : 'Not judged: it is not read through.',
      due: run.adjustments.length > 0 ? 'at once: adjusted and not verified' : null,
    }
  const words = VERDICT_WORDS[verdict]
  const part = last.missing.length > 0 ? ` ${last.missing.length} points of the plan were not read.` : ''
  const how = run.leftAsFound
    ? 'as found, nothing was adjusted'
    : `as left${run.adjustments.length > 0 ? ' after adjustment' : ''}; ${found === null ? 'not judged' : VERDICT_WORDS[found].toLowerCase()} as found`
  return {
    verdict,
    says: `${words} ${how}.${part}`,
    due: !IN.includes(verdict)
      ? 'at once: out of tolerance'
      : interval === null
        ? null
        : addMonths(run.startedAt.slice(0, 10), interval),
  }
}
