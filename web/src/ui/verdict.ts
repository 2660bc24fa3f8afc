import type { PartState } from '@calm/core/loop/summary'
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
