import { currentLoopDocument } from '@calm/contract/saved/loop-document'
import type { LoopDocument } from '@calm/core/loop/document'
import { and, asc, eq, isNull } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { notFound } from '../http/problems.ts'
import { loopRevisions, loops } from './schema.ts'

/** A revision of a loop's document. @throws HttpProblem 404 */
export async function documentOf(db: Executor, loopId: string, number: number): Promise<LoopDocument> {
  const [row] = await db
    .select({ document: loopRevisions.document })
    .from(loopRevisions)
    .where(and(eq(loopRevisions.loopId, loopId), eq(loopRevisions.number, number)))
  if (!row) throw notFound('revision')
  return currentLoopDocument(row.document)
}

const newestOf = (db: Executor) =>
  db
    .select({ id: loops.id, revision: loops.revision, document: loopRevisions.document })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )

/** The loop as it stands now, without its record. @throws HttpProblem 404 */
export async function newestDocument(db: Executor, loopId: string): Promise<LoopDocument> {
  const [row] = await newestOf(db).where(eq(loops.id, loopId))
  if (!row) throw notFound('loop')
  return currentLoopDocument(row.document)
}

/** The newest document of every loop in use by its tag in capitals, in the order of entry. */
export async function documentsByTag(
  db: Executor,
): Promise<Map<string, { id: string; revision: number; document: LoopDocument }>> {
  const rows = await newestOf(db).where(isNull(loops.archivedAt)).orderBy(asc(loops.position))
  return new Map(
    rows.map((r) => {
      const document = currentLoopDocument(r.document)
      return [document.tag.toUpperCase(), { ...r, document }]
    }),
  )
}
