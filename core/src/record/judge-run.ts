import type { Stage } from '../signal/stage.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { judge, type Judgement } from '../verify/verdict.ts'
import { readings } from './readings.ts'
import type { Run } from './run.ts'

/** A run's judgement of one phase, by the stages of the revision it was started on. */
export function judgeRun(run: Run, stages: readonly Stage[], phase: 'asFound' | 'asLeft'): Judgement | null {
  const scale = loopScale(stages)
  if (!scale) return null
  const { tolerance, plan, U_pct, rule } = run.started
  return judge({ scale, tolerance, plan, readings: readings(run, phase), U_pct, phase, rule })
}

/** The last phase that has been read. */
export const lastPhase = (run: Run): 'asFound' | 'asLeft' =>
  run.leftAsFound || Object.keys(run.asLeft).length > 0 ? 'asLeft' : 'asFound'
