import { PLANNERS } from '@calm/contract/api/endpoint'
import type { ChangeSeveral } from '@calm/contract/loops'
import type { Person } from '@calm/contract/people'
import type { LoopDocument } from '@calm/core/loop/document'
import type { Executor } from '../db/connection.ts'
import { refuseArea } from '../loops/areas.ts'
import { saveRevisionIn } from '../loops/store.ts'
import { holdLoop } from '../record/append.ts'
import { documentOf } from '../record/documents.ts'

/** The loop with what is changed of several; a switch has no span that a tolerance could be a part of. */
function changed(d: LoopDocument, to: ChangeSeveral): LoopDocument {
  const asTyped = Object.fromEntries(
    Object.entries(d.asTyped).filter(
      ([path]) =>
        !(to.tolerance_pct !== undefined && path.startsWith('tolerance')) &&
        !(to.interval_months !== undefined && path === 'interval_months'),
    ),
  )
  return {
    ...d,
    asTyped,
    ...(to.area === undefined ? {} : { area: to.area }),
    ...(to.floor === undefined ? {} : { floor: to.floor }),
    ...(to.assignee === undefined ? {} : { assignee: to.assignee }),
    ...(to.interval_months === undefined ? {} : { interval_months: to.interval_months }),
    ...(to.tolerance_pct === undefined || d.path.length === 0
      ? {}
      : { tolerance: { mode: 'max', pctSpan: to.tolerance_pct, pctReading: 0, abs: 0 } as const }),
  }
}

/**
 * The same change of several loops, all or none, each as a revision with the reason.
 * @throws HttpProblem 403 for another area, 409 for an archived one
 */
export async function changeSeveral(
  tx: Executor,
  to: ChangeSeveral,
  person: Person,
  at: Date,
): Promise<{ changed: number; same: number }> {
  const out = { changed: 0, same: 0 }
  // In one order for everybody: two who change the same loops never wait for each other.
  for (const id of [...new Set(to.loops)].sort()) {
    const { row } = await holdLoop(tx, id)
    refuseArea(person, row.area, PLANNERS)
    if (to.area !== undefined) refuseArea(person, to.area, PLANNERS)
    const document = await documentOf(tx, id, row.revision)
    const isNew = await saveRevisionIn(tx, id, row.revision, changed(document, to), person, to.reason, at)
    out[isNew ? 'changed' : 'same']++
  }
  return out
}
