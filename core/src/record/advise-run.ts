import { stageOf, type Stage } from '../signal/stage.ts'
import { ACTION_SAYS, MISTAKE_SAYS, recommend, type Recommendation } from '../trim/recommend.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { toleranceAt } from '../verify/tolerance.ts'
import { claimedU_pct } from './judge-run.ts'
import { readings } from './readings.ts'
import type { Run } from './run.ts'

/** Where nobody has said the uncertainty, a quarter of the tolerance is taken. */
const USUAL_SHARE = 0.25

/**
 * The smallest right action from the as-found readings of a verification.
 * @param stages - the signal path of the revision the run was begun on.
 * @returns null where fewer than two points have the transmitter's reading and the current.
 */
export function recommendForRun(run: Run, stages: readonly Stage[]): Recommendation | null {
  const scale = loopScale(stages)
  const transmitter = stageOf(stages, 'transmitter')
  if (!scale || !transmitter) return null
  const { low: L, high: U } = run.started.inputRange
  const points = readings(run, 'asFound').flatMap((r) =>
    r.applied === null || r.pv === null || r.loopCurrent_mA === null
      ? []
      : [{ x: r.applied, dir: r.direction, pv: r.pv, mA: r.loopCurrent_mA }],
  )
  if (points.length < 2) return null
  const span = Math.abs(U - L)
  const T = (100 * toleranceAt(run.started.tolerance, span, U)) / span
  const each = (x: number) => ({ sensor: x, output: x, total: x })
  return recommend({
    points,
    L,
    U,
    Ld: L,
    Ud: U,
    transfer: transmitter.transfer,
    T: each(T),
    uncertainty: each(claimedU_pct(run) > 0 ? claimedU_pct(run) : T * USUAL_SHARE),
  })
}

/** The recommendation in sentences, mistakes first; none while as found is still being read. */
export function adviseRun(run: Run, stages: readonly Stage[]): readonly string[] {
  if (run.state === 'asFound') return []
  const r = recommendForRun(run, stages)
  if (!r) return []
  const actions = r.actions.length > 0 ? r.actions : (['none'] as const)
  return [...r.mistakes.map((m) => MISTAKE_SAYS[m]), ...actions.map((a) => ACTION_SAYS[a])]
}
