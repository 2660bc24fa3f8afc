import { procedureOf } from '@calm/core/procedure/catalogue'
import type { RunRow } from '@calm/core/today/progress'
import { and, eq, gte, inArray, lt, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { people as peopleTable } from '../people/schema.ts'
import { events, runs } from '../record/schema.ts'

/** Runs of loops that were begun since an instant, by loop. */
export async function runsSince(db: Executor, loopIds: readonly string[], from: Date, to: Date) {
  if (loopIds.length === 0) return new Map<string, RunRow[]>()
  const reason = sql<
    string | null
  >`(select e.payload ->> 'reason' from ${events} e where e.run_id = ${runs.id} and e.type = 'procedure.abortAsked' order by e.seq desc limit 1)`
  const rows = await db
    .select({
      loopId: runs.loopId,
      kind: runs.kind,
      procedure: runs.procedure,
      state: runs.state,
      verdict: runs.verdict,
      startedAt: runs.startedAt,
      byName: peopleTable.shownName,
      reason,
    })
    .from(runs)
    .leftJoin(peopleTable, eq(peopleTable.id, runs.startedBy))
    .where(and(inArray(runs.loopId, [...loopIds]), gte(runs.startedAt, from), lt(runs.startedAt, to)))
  const out = new Map<string, RunRow[]>()
  for (const r of rows) {
    const row: RunRow = {
      kind: r.kind === 'procedure' ? 'procedure' : 'verification',
      procedure: r.kind === 'procedure' ? r.procedure : null,
      title: r.kind === 'procedure' ? (procedureOf(r.procedure ?? '')?.title ?? 'Procedure') : 'Verification',
      state: r.state,
      verdict: r.verdict,
      startedAt: isoInstant(r.startedAt),
      byName: r.byName ?? 'somebody elsewhere',
      reason: r.reason,
    }
    out.set(r.loopId, [...(out.get(r.loopId) ?? []), row])
  }
  return out
}
