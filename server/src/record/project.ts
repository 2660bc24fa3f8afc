import { judgeRun, lastPhase } from '@calm/core/record/judge-run'
import { verdictOf } from '@calm/core/verify/verdict'
import { pastErrors } from '@calm/core/record/loop-drift'
import { outcomeOf } from '@calm/core/procedure/closing'
import { changedAt } from '@calm/core/procedure/outcome'
import type { Stage } from '@calm/core/signal/stage'
import { eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { documentOf } from './documents.ts'
import { eventsOfRun } from './events.ts'
import { foldEvents, keptFold, type AnyRun } from './fold.ts'
import { takenOf } from './authors.ts'
import { runs } from './schema.ts'

/**
 * What a run's row says, told by the folded run alone.
 * @param stages - the signal path of the revision that it was begun on
 * @param judged - its verdict where somebody has worked it out already
 */
export function columnsOf(any: AnyRun, stages: readonly Stage[], judged?: string | null) {
  const folded = keptFold(any)
  if (any.kind === 'procedure') {
    const { run: p } = any
    const changed = changedAt(p)
    return {
      state: p.state,
      folded,
      verdict: outcomeOf(p)?.result ?? null,
      adjustedAt: changed === null ? null : new Date(changed),
      errors: null,
    }
  }
  const { run } = any
  return {
    state: run.state,
    folded,
    verdict: judged === undefined ? verdictOf(judgeRun(run, stages, lastPhase(run))) : judged,
    errors: pastErrors(run, stages),
    adjustedAt: null,
  }
}

/** Tells a run's row anew from its events: after a package, or where an older server wrote it. */
export async function projectRun(tx: Executor, loopId: string, runId: string): Promise<void> {
  const any = foldEvents(await eventsOfRun(tx, runId), await takenOf(tx, loopId))
  if (!any) return
  const { path } = await documentOf(tx, loopId, any.run.started.revision)
  await tx.update(runs).set(columnsOf(any, path)).where(eq(runs.id, runId))
}
