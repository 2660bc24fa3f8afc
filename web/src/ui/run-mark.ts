import { RESULT_STATE, RESULT_WORDS, type Result } from '@calm/core/procedure/outcome'
import type { VerdictClass } from '@calm/core/verify/verdict'
import { VERDICT_SHORT, VERDICT_STATE } from './verdict.ts'

const NOT_JUDGED = { state: 'notYet', word: 'not judged' } as const

/** What a verification or procedure came to, as a mark. */
export function runMark({ kind, verdict }: { readonly kind: string; readonly verdict: string | null }) {
  if (verdict === null) return NOT_JUDGED
  return kind === 'procedure'
    ? { state: RESULT_STATE[verdict as Result], word: RESULT_WORDS[verdict as Result] }
    : { state: VERDICT_STATE[verdict as VerdictClass], word: VERDICT_SHORT[verdict as VerdictClass] }
}
