import type { Stage } from '../signal/stage.ts'
import { openQuestions } from './open-questions.ts'
import type { Run } from './run.ts'
import type { Phase } from './kinds/reading-values.ts'

/** Why a record cannot be signed yet, and where that is mended. */
export interface SigningProblem {
  readonly code: 'NO_INSTRUMENT' | 'UNCONFIRMED_READING'
  readonly says: string
  readonly phase?: Phase
  readonly index?: number
}

const PHASE_WORDS: Readonly<Record<Phase, string>> = { asFound: 'As found', asLeft: 'As left' }

/**
 * What stands between a verification and its signature, from the record alone: with what it was measured, and that
 * every value that looks like a slip was looked at again by a person.
 * @param stages - the signal path of the revision that the run was begun on
 */
export function signingProblems(run: Run, stages: readonly Stage[]): SigningProblem[] {
  const out: SigningProblem[] = []
  if (run.equipment.length === 0)
    out.push({
      code: 'NO_INSTRUMENT',
      says: 'No instrument is named: a reading is worth what it was read with. Name the instruments that were used.',
    })
  const phases: readonly Phase[] = run.leftAsFound ? ['asFound'] : ['asFound', 'asLeft']
  for (const phase of phases)
    for (const q of openQuestions(run, stages, phase))
      if (!out.some((p) => p.phase === q.phase && p.index === q.index))
        out.push({
          code: 'UNCONFIRMED_READING',
          says: `${PHASE_WORDS[phase]}, point ${q.index + 1}: ${q.finding.says} Type it again, or confirm that it was read so.`,
          phase,
          index: q.index,
        })
  return out
}
