import { ImportResult, type LoopImport } from '@calm/contract/loop-list'
import type { Person } from '@calm/contract/people'
import { listUndone } from '@calm/core/record/plant-log/kinds/plant'
import { and, asc, desc, eq, inArray } from 'drizzle-orm'
import { z } from 'zod'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import { refuseArea } from '../loops/areas.ts'
import { archiveLoops } from '../loop-life/archive.ts'
import { saveRevisionIn } from '../loops/store.ts'
import { people } from '../people/schema.ts'
import { note } from '../plant-log/note.ts'
import { documentOf } from '../record/documents.ts'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import { events, loops } from '../record/schema.ts'
import { heldRows, imports } from './schema.ts'

/** What an import made: a loop with its first revision, or a revision of one that was here. */
const Made = z.object({ loop: z.uuid(), revision: z.int() })
export type Made = z.output<typeof Made>
/** What is kept of an import; what older servers kept of it says not which loops it made. */
const Kept = ImportResult.extend({
  made: z.array(Made).optional(),
  undone: z.object({ at: z.string(), byName: z.string(), reason: z.string() }).optional(),
})

export async function allImports(db: Executor): Promise<LoopImport[]> {
  const rows = await db
    .select({ i: imports, byName: people.shownName })
    .from(imports)
    .innerJoin(people, eq(people.id, imports.by))
    .orderBy(desc(imports.at))
    .limit(50)
  return rows.flatMap(({ i, byName }) => {
    const kept = Kept.safeParse(i.result)
    if (!kept.success) return []
    const { made, undone = null, ...result } = kept.data
    return [{ id: i.id, at: isoInstant(i.at), byName, result, undone, old: made === undefined }]
  })
}

const AT_ONCE = 500
/** Tags of those that something came after: their last event is no longer the revision that the import made. */
async function workedOn(tx: Executor, made: readonly Made[], person: Person): Promise<string[]> {
  const tags: string[] = []
  for (let i = 0; i < made.length; i += AT_ONCE) {
    const some = made.slice(i, i + AT_ONCE)
    const rows = await tx
      .select({
        id: loops.id,
        tag: loops.tag,
        area: loops.area,
        revision: loops.revision,
        archivedAt: loops.archivedAt,
        last: events.type,
      })
      .from(loops)
      .innerJoin(events, and(eq(events.loopId, loops.id), eq(events.seq, loops.lastSeq)))
      .where(
        inArray(
          loops.id,
          some.map((m) => m.loop),
        ),
      )
      .orderBy(asc(loops.id))
      .for('update', { of: loops })
    const revisions = new Map(some.map((m) => [m.loop, m.revision]))
    for (const r of rows) {
      refuseArea(person, r.area)
      if (r.archivedAt !== null || r.revision !== revisions.get(r.id) || r.last !== revisionSaved.type)
        tags.push(r.tag)
    }
  }
  return tags
}

const SOME = 5

/**
 * Undoes an import as a whole: loops that it made are archived and their tags free again, loops that it changed get
 * the revision of before, rows that it held back are dropped.
 * @throws HttpProblem 409 where something was recorded on one of its loops since, or it was undone already
 */
export async function undoImport(
  db: Database,
  id: string,
  reason: string,
  person: Person,
  at: Date,
): Promise<LoopImport[]> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(imports).where(eq(imports.id, id)).for('update')
    if (!row) throw notFound('import')
    const kept = Kept.parse(row.result)
    if (kept.undone) throw conflict(`This import was undone already, by ${kept.undone.byName}.`)
    if (!kept.made) throw conflict('This import is from before imports could be undone.')
    const made = [...kept.made].sort((a, b) => a.loop.localeCompare(b.loop))
    const worked = await workedOn(tx, made, person)
    if (worked.length > 0)
      throw conflict(
        `Worked on since: ${worked.slice(0, SOME).join(', ')}${worked.length > SOME ? ` and ${worked.length - SOME} more` : ''}. Nothing was undone.`,
      )
    const why = `import undone: ${reason}`.slice(0, 300)
    const fresh = made.filter((m) => m.revision === 1).map((m) => m.loop)
    for (let i = 0; i < fresh.length; i += AT_ONCE)
      await archiveLoops(tx, fresh.slice(i, i + AT_ONCE), why, person, at)
    for (const { loop, revision } of made)
      if (revision > 1)
        await saveRevisionIn(tx, loop, revision, await documentOf(tx, loop, revision - 1), person, why, at)
    await tx.delete(heldRows).where(eq(heldRows.importId, id))
    const undone = { at: isoInstant(at), byName: person.shownName, reason }
    await tx
      .update(imports)
      .set({ result: { ...kept, undone } })
      .where(eq(imports.id, id))
    const payload = { loops: made.length }
    const log = { table: 'imports', key: id } as const
    await note(tx, { kind: listUndone, payload, by: person.id, subject: id, reason, row: log }, at)
    await tellWindows(tx, { what: 'held' })
    await tellWindows(tx, { what: 'list' })
    return allImports(tx)
  })
}
