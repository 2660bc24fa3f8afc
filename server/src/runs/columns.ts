import { judgeRun, lastPhase } from '@calm/core/loop/summary'
import { pastErrors } from '@calm/core/record/loop-drift'
import type { Executor } from '../db/connection.ts'
import { documentOf } from '../loops/store.ts'
import type { AnyRun } from './apply.ts'

/** What a run's row in lists says, told by the folded run alone. */
export async function columnsOf(db: Executor, loopId: string, any: AnyRun) {
  if (any.kind === 'procedure') return { state: any.run.state }
  const { run } = any
  const stages = (await documentOf(db, loopId, run.started.revision)).path
  return {
    state: run.state,
    verdict: judgeRun(run, stages, lastPhase(run))?.class ?? null,
    errors: pastErrors(run, stages),
  }
}
