import type { Finding } from '../finding.ts'
import type { Stage } from '../signal/stage.ts'
import { questions } from '../verify/contradiction.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { PHASE_WORDS, type Column, type Phase } from './kinds/reading-values.ts'
import { readings } from './readings.ts'
import type { Run } from './run.ts'

/** A question about one reading that nobody has answered yet. */
export interface OpenQuestion {
  readonly phase: Phase
  readonly index: number
  readonly finding: Finding
  /** With the place it is about. */
  readonly says: string
}

/**
 * What has to be looked at again in a phase: typed anew, or confirmed as it was read. A signed record has none: who
 * signed it answered for it.
 */
export function openQuestions(run: Run, stages: readonly Stage[], phase: Phase): OpenQuestion[] {
  const scale = loopScale(stages)
  if (!scale || run.state === 'signed' || run.state === 'countersigned') return []
  // As left may be as found, by reference: what was confirmed there is confirmed.
  const rows = run.leftAsFound ? 'asFound' : phase
  const asked = questions(scale, run.started.tolerance, readings(run, phase))
  return [...asked].flatMap(([index, findings]) => {
    const confirmed = run.confirmed[rows][index] ?? []
    return findings
      .filter((f) => !f.where.some((w) => confirmed.includes(w as Column)))
      .map((finding) => ({
        phase: rows,
        index,
        finding,
        says: `point ${index + 1} ${PHASE_WORDS[rows]}: ${finding.says}`,
      }))
  })
}
