import type { KeptComparison, NewComparison } from '@calm/contract/comparisons'
import type { Person } from '@calm/contract/people'
import { compareWithReference, type PastComparison } from '@calm/core/verify/reference-comparison'
import { and, asc, eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { appendOnce } from '../record/append-once.ts'
import { authorsOf } from '../record/chain.ts'
import { events } from '../runs/schema.ts'

const COMPARED = 'reference.compared'
type Payload = Omit<KeptComparison, 'id' | 'at' | 'byName'>

/** Comparisons in the record, oldest first: the first one is the baseline of the others. */
export async function comparisonsOf(db: Executor, loopId: string): Promise<KeptComparison[]> {
  const rows = await db
    .select({ id: events.id, at: events.at, payload: events.payload, seq: events.seq, by: events.by })
    .from(events)
    .where(and(eq(events.loopId, loopId), eq(events.type, COMPARED)))
    .orderBy(asc(events.at))
  const { author, name } = await authorsOf(db, loopId)
  return rows.map((r) => ({
    ...(r.payload as Payload),
    id: r.id,
    at: isoInstant(r.at),
    byName: name(author(r.seq, r.by)),
  }))
}

export const asPast = (c: KeptComparison): PastComparison => ({
  at: c.at,
  U_pct: c.U_pct,
  points: c.runs.map((r, i) => ({ at: r.reference, error_pct: c.errors_pct[i] ?? 0 })),
})

/** Judges a comparison against what the record knows and keeps it; sent twice it is kept once. */
export async function keepComparison(
  db: Database,
  loopId: string,
  { id, at, ...task }: NewComparison,
  person: Person,
  now = new Date(),
): Promise<KeptComparison> {
  const all = await comparisonsOf(db, loopId)
  const here = all.find((c) => c.id === id)
  if (here) return here
  const r = compareWithReference(task, all.filter((c) => c.unit === task.unit && c.at < at).map(asPast), at)
  const payload: Payload = {
    ...task,
    errors_pct: [...r.errors_pct],
    U_pct: r.U_pct,
    passes: r.passes,
    says: [...r.says],
  }
  await appendOnce(db, loopId, { id, at, type: COMPARED, payload }, person, now)
  return { ...payload, id, at, byName: person.shownName }
}
