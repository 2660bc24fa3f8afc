import type { KeptComparison, NewComparison } from '@calm/contract/comparisons'
import { measuredProblems, referenceCompared } from '@calm/core/record/kinds/reference-compared'
import type { Person } from '@calm/contract/people'
import { compareWithReference, type PastComparison } from '@calm/core/verify/reference-comparison'
import type { Database, Executor } from '../db/connection.ts'
import { HttpProblem } from '../http/problems.ts'
import { appendOnce } from '../record/append-once.ts'
import { authorsOf } from '../record/authors.ts'
import { eventsOfKind } from '../record/events.ts'

type Payload = Omit<KeptComparison, 'id' | 'at' | 'byName'>

/** Comparisons in the record, oldest first: the first one is the baseline of the others. */
export async function comparisonsOf(db: Executor, loopId: string): Promise<KeptComparison[]> {
  const rows = await eventsOfKind(db, loopId, referenceCompared.type)
  const { author, name } = await authorsOf(db, loopId)
  return rows
    .map((r) => ({
      ...referenceCompared.payload.parse(r.payload),
      id: r.id,
      at: r.at,
      byName: name(author(r.seq, r.by)),
    }))
    .sort((a, b) => a.at.localeCompare(b.at))
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
  const wrong = measuredProblems(task)
  if (wrong.length > 0) throw new HttpProblem('wrong-values', 'Some values cannot be used.', wrong)
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
  await appendOnce(db, loopId, { id, at, type: referenceCompared.type, payload }, person, now)
  return { ...payload, id, at, byName: person.shownName }
}
