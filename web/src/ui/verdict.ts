import type { LoopSummary } from '@calm/core/loop/summary'
import type { PartState } from '@calm/core/loop/parts'
import type { VerdictClass } from '@calm/core/verify/verdict'

/** How a verdict is shown: never a bare light. */
export const VERDICT_STATE: Readonly<Record<VerdictClass, PartState>> = {
  PASS: 'good',
  CONDITIONAL_PASS: 'look',
  CONDITIONAL_FAIL: 'look',
  FAIL: 'stop',
}
export const VERDICT_SHORT: Readonly<Record<VerdictClass, string>> = {
  PASS: 'in tolerance',
  CONDITIONAL_PASS: 'in, not certain',
  CONDITIONAL_FAIL: 'out, not certain',
  FAIL: 'out of tolerance',
}

/** A verdict in words, and what happened since: then it says nothing of what stands there now. */
export function sayVerdict(
  summary: Pick<LoopSummary, 'olderThanTrim' | 'olderThanLoss'>,
  verdict: VerdictClass,
): string {
  const since = summary.olderThanLoss
    ? ', memory lost since'
    : summary.olderThanTrim
      ? ', before the trim'
      : ''
  return `${VERDICT_SHORT[verdict]}${since}`
}

/** The mark of a loop's verdict: good only where its verification is good, not while it is open or somebody else's word. */
export const verdictState = (summary: Pick<LoopSummary, 'parts'>, verdict: VerdictClass): PartState =>
  VERDICT_STATE[verdict] === 'good' ? summary.parts.verify : VERDICT_STATE[verdict]
