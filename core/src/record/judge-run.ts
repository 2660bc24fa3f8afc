import type { Stage } from '../signal/stage.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { judge, type Judgement } from '../verify/verdict.ts'
import { openQuestions } from './open-questions.ts'
import { readings } from './readings.ts'
import type { Run } from './run.ts'

/**
 * The uncertainty that a verification can claim, % of span: none without an instrument, and none while what was
 * applied or what it was read with is not in it.
 */
export const claimedU_pct = (run: Pick<Run, 'started' | 'equipment'>): number =>
  run.equipment.length === 0 || (run.started.budget?.missing.length ?? 0) > 0 ? 0 : run.started.U_pct

/** A run's judgement of one phase, by the stages of the revision it was started on. */
export function judgeRun(run: Run, stages: readonly Stage[], phase: 'asFound' | 'asLeft'): Judgement | null {
  const scale = loopScale(stages)
  if (!scale) return null
  const { tolerance, rule } = run.started
  return judge({
    scale,
    tolerance,
    plan: run.plan,
    readings: readings(run, phase),
    U_pct: claimedU_pct(run),
    phase,
    rule,
    open: openQuestions(run, stages, phase).map((q) => q.says),
  })
}

/** The last phase that has been read. */
export const lastPhase = (run: Run): 'asFound' | 'asLeft' =>
  run.leftAsFound || Object.keys(run.asLeft).length > 0 ? 'asLeft' : 'asFound'
