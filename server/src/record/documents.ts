import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { LoopDocument } from '@calm/core/loop/document'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { databaseBehind, type Executor } from '../db/connection.ts'
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

/** A document as it was read, with the mark of the row that it stood in. */
interface Seen {
  readonly mark: string
  readonly document: LoopDocument
}
const MOST_SEEN = 300
const seen = new WeakMap<Executor, Map<string, Seen>>()

/** Which row a revision stands in: another one, or a change of it, has another mark, also one that was given up. */
const mark = sql<string>`${loopRevisions.number}::text || '/' || ${loopRevisions}.xmin::text`
/**
 * Columns of a statement that reads the newest revision again and again: the document comes only where its row is another
 * than the one that was seen before.
 */
export const documentUnlessSeen = {
  mark,
  unseen: sql<SavedLoopDocument | null>`case when ${mark} = ${sql.placeholder('seen')}::text then null else ${loopRevisions.document} end`,
}
type Unless = { readonly mark: string; readonly unseen: SavedLoopDocument | null }

/**
 * The newest document of a loop through such a statement.
 * @param ask - the statement, told the mark of what was seen
 */
export async function withDocument<R extends Unless>(
  db: Executor,
  loopId: string,
  ask: (seen: string) => Promise<readonly R[]>,
): Promise<{ readonly rows: readonly R[]; readonly document: LoopDocument } | null> {
  const home = databaseBehind(db)
  const all = seen.get(home) ?? new Map<string, Seen>()
  seen.set(home, all)
  // Kept in hand while it is asked: another question may let it go meanwhile.
  const before = all.get(loopId)
  const rows = await ask(before?.mark ?? '')
  const [row] = rows
  if (!row) return null
  const now =
    row.unseen === null && before
      ? before
      : { mark: row.mark, document: currentLoopDocument(row.unseen as SavedLoopDocument) }
  all.delete(loopId)
  all.set(loopId, now)
  const [oldest] = all.keys()
  if (all.size > MOST_SEEN && oldest !== undefined) all.delete(oldest)
  return { rows, document: now.document }
}
