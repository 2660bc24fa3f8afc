import type { DriftRow, LoopHistory } from '@calm/contract/drift'
import { leavesOn, type LoopDrift } from '@calm/core/record/loop-drift'
import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { refreshSummary } from '../loops/store.ts'
import { projectRun } from '../record/project.ts'
import { pastErrorsOf } from '../record/runs.ts'
import { loops, runs } from '../record/schema.ts'

const CLOSED = ['ready', 'signed', 'countersigned']
const YEAR_DAYS = 365.25

export async function historyOf(db: Executor, loopId: string): Promise<LoopHistory> {
  const [row] = await db.select({ interval: loops.intervalMonths }).from(loops).where(eq(loops.id, loopId))
  const past = await pastErrorsOf(db, loopId)
  return {
    past: past.map((p) => ({
      ...p,
      found: p.found.map(([l, e]): [number, number] => [l, e]),
      left: p.left.map(([l, e]): [number, number] => [l, e]),
    })),
    interval_months: row?.interval ?? null,
  }
}

const rowOf = (
  l: Pick<DriftRow, 'id' | 'tag' | 'service' | 'area' | 'interval_months'>,
  d: LoopDrift,
): DriftRow => ({
  ...l,
  verifications: d.verifications,
  enough: d.drift.enough,
  significant: d.drift.enough && d.drift.significant,
  rate_pctYear: d.drift.enough ? d.drift.rate * YEAR_DAYS : null,
  T_pct: d.T_pct,
  used: d.used,
  leavesOn: leavesOn(d),
  byDrift_months: d.byDrift_months,
  staircase_months: d.staircase_months,
  recommended_months: d.recommended_months,
})

/** Who drifts, plant-wide: those that leave their tolerance first at the top, then by how much was used. */
export async function plantDrift(db: Executor): Promise<DriftRow[]> {
  const rows = await db
    .select({
      id: loops.id,
      tag: loops.tag,
      service: loops.service,
      area: loops.area,
      interval_months: loops.intervalMonths,
      drift: loops.drift,
    })
    .from(loops)
    .where(and(isNotNull(loops.drift), isNull(loops.archivedAt)))
  return rows
    .flatMap(({ drift, ...l }) => (drift ? [rowOf(l, drift)] : []))
    .sort(
      (a, b) =>
        (a.leavesOn ?? '9999').localeCompare(b.leavesOn ?? '9999') ||
        b.used - a.used ||
        a.tag.localeCompare(b.tag),
    )
}

/** Verifications that were closed before drift was kept get their errors; nothing else changes. */
export async function fillErrors(db: Database): Promise<void> {
  const open = await db
    .select({ id: runs.id, loopId: runs.loopId })
    .from(runs)
    .where(and(eq(runs.kind, 'verification'), inArray(runs.state, CLOSED), isNull(runs.errors)))
  for (const { id, loopId } of open) await projectRun(db, loopId, id)
  for (const loopId of new Set(open.map((o) => o.loopId)))
    await db.transaction((tx) => refreshSummary(tx, loopId))
}
