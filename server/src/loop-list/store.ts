import { randomUUID } from 'node:crypto'
import { ImportResult, type HeldRow, type Preview } from '@calm/contract/loop-list'
import type { Progress } from '@calm/contract/api/news'
import type { Person } from '@calm/contract/people'
import { LIST_COLUMNS, suggestMapping, type ColumnMapping } from '@calm/core/loop-list/columns'
import { readList, type ListRow } from '@calm/core/loop-list/read-list'
import { readRow, type Cells } from '@calm/core/loop-list/read-row'
import { plantRules } from '../settings/store.ts'
import { writeRow } from '@calm/core/loop-list/write-row'
import type { DateOrder } from '@calm/core/loop/usual'
import type { LoopDocument } from '@calm/core/loop/document'
import { listImported } from '@calm/core/record/plant-log/kinds/plant'
import { asc, eq } from 'drizzle-orm'
import Papa from 'papaparse'
import writeXlsxFile from 'write-excel-file/node'
import type { Database, Executor } from '../db/connection.ts'
import { csvOf } from '../reports/csv.ts'
import { tellWindows } from '../http/live.ts'
import { note } from '../plant-log/note.ts'
import { conflict, HttpProblem, notFound } from '../http/problems.ts'
import { refuseArea } from '../loops/areas.ts'
import { createLoop, createLoops, saveRevisionIn } from '../loops/store.ts'
import { documentsByTag } from '../record/documents.ts'
import { heldRows, imports } from './schema.ts'
import type { Made } from './undo.ts'

const MOST_ROWS = 20_000
/** Loops that are stored in one statement. */
const AT_ONCE = 250

/** Splits a list into headings and records: comma, semicolon or tab, with or without a byte-order mark. */
function recordsOf(text: string): { headings: string[]; records: string[][] } {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' })
  const broken = parsed.errors.find((e) => e.type === 'Quotes')
  if (broken)
    throw new HttpProblem('wrong-values', 'The list cannot be read to its end.', [
      {
        path: 'text',
        says: `A quotation mark is not closed near row ${(broken.row ?? 0) + 1}. Close it and try again.`,
      },
    ])
  const [headings = [], ...records] = parsed.data
  if (headings.length < 2 || records.length === 0)
    throw new HttpProblem('wrong-values', 'This does not look like a loop list.', [
      {
        path: 'text',
        says: 'A loop list has a heading row and at least one row below it, separated by ; or ,.',
      },
    ])
  if (records.length > MOST_ROWS)
    throw new HttpProblem('wrong-values', 'The list is too long.', [
      { path: 'text', says: `At most ${MOST_ROWS} rows at once; this list has ${records.length}.` },
    ])
  return { headings, records }
}

/** A list as it is sent: its text, what its columns are, and which comes first in its dates. */
interface ListSent {
  readonly text: string
  readonly mapping?: ColumnMapping | undefined
  readonly dateOrder?: DateOrder | undefined
}

async function readText(db: Executor, { text, mapping, dateOrder }: ListSent) {
  const { headings, records } = recordsOf(text)
  const known = await documentsByTag(db)
  const used = mapping ?? suggestMapping(headings)
  const plant = { ...(await plantRules(db)), dateOrder }
  const rows = readList(records, used, (tag) => known.get(tag.toUpperCase())?.document ?? null, plant)
  return { headings, mapping: used, rows, known }
}

const told = ({ row, cells, standing, findings, changes }: ListRow): Preview['rows'][number] => ({
  row,
  cells,
  standing,
  findings: findings.map((f) => ({ code: f.code, severity: f.severity, where: [...f.where], says: f.says })),
  changes: changes.map((c) => ({ ...c })),
})

/** What an import would do, row by row; nothing is stored. */
export async function preview(db: Executor, sent: ListSent): Promise<Preview> {
  const read = await readText(db, sent)
  return { headings: read.headings, mapping: [...read.mapping], rows: read.rows.map(told) }
}

/**
 * Imports the good rows, changes the ones that were ticked, holds the bad ones back: all of it or nothing, and the
 * result tells what was done, after it was done.
 */
export async function importList(
  db: Database,
  request: ListSent & { readonly id: string; readonly update: readonly number[] },
  person: Person,
  at = new Date(),
  { gone, tell = () => undefined }: { gone?: AbortSignal; tell?: (p: Progress) => void } = {},
): Promise<ImportResult> {
  return db.transaction(async (tx) => {
    // The identifier first: of two sends at the same time the second waits here and then finds it taken.
    const begun = await tx
      .insert(imports)
      .values({ id: request.id, by: person.id, at, result: {} })
      .onConflictDoNothing()
      .returning({ id: imports.id })
    if (begun.length === 0) {
      const [done] = await tx.select().from(imports).where(eq(imports.id, request.id))
      return ImportResult.parse(done?.result)
    }
    const { rows, known } = await readText(tx, request)
    const result: ImportResult = { created: 0, updated: 0, same: 0, held: 0 }
    const made: Made[] = []
    const fresh: { id: string; document: LoopDocument; reason: string }[] = []
    for (const [done, r] of rows.entries()) {
      const here = r.document && known.get(r.document.tag.toUpperCase())
      if (r.standing === 'new' && r.document) {
        refuseArea(person, r.document.area)
        const id = randomUUID()
        fresh.push({ id, document: r.document, reason: `imported, row ${r.row} of the list` })
        made.push({ loop: id, revision: 1 })
        result.created++
      } else if (r.standing === 'changed' && r.document && here && request.update.includes(r.row)) {
        const document = r.document
        refuseArea(person, here.document.area)
        refuseArea(person, document.area)
        const reason = `row ${r.row} of an imported list`
        // Somebody who was faster stops the whole import: what would be done is no longer what was shown.
        if (await saveRevisionIn(tx, here.id, here.revision, document, person, reason, at)) {
          result.updated++
          made.push({ loop: here.id, revision: here.revision + 1 })
        } else result.same++
      } else if (r.standing === 'bad') {
        const { row, cells, findings } = told(r)
        await tx.insert(heldRows).values({ importId: request.id, row, cells, findings })
        result.held++
      } else result.same++
      if (fresh.length >= AT_ONCE || done === rows.length - 1) {
        // Given up: nothing of it stays.
        if (gone?.aborted) throw conflict('The import was given up; nothing of it is stored.')
        await createLoops(tx, fresh.splice(0), person, at)
        tell({ done: done + 1, of: rows.length })
      }
    }
    if (result.created > 0) await tellWindows(tx, { what: 'list' })
    if (result.held > 0) await tellWindows(tx, { what: 'held' })
    await tx
      .update(imports)
      .set({ result: { ...result, made } })
      .where(eq(imports.id, request.id))
    const imported = { table: 'imports', key: request.id } as const
    await note(
      tx,
      { kind: listImported, payload: result, by: person.id, subject: request.id, row: imported },
      at,
    )
    return result
  })
}

export const allHeld = (db: Executor): Promise<HeldRow[]> =>
  db
    .select({ id: heldRows.id, row: heldRows.row, cells: heldRows.cells, findings: heldRows.findings })
    .from(heldRows)
    .orderBy(asc(heldRows.row))

/** Tries a mended row again: it becomes a loop, or says what is still wrong and keeps what was typed. */
export async function mendRow(
  db: Database,
  id: string,
  cells: Cells,
  person: Person,
  at = new Date(),
): Promise<HeldRow | null> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(heldRows).where(eq(heldRows.id, id)).for('update')
    if (!row) throw notFound('held row')
    const read = readRow(cells, await plantRules(tx))
    const findings = read.findings.map((f) => ({
      code: f.code,
      severity: f.severity,
      where: [...f.where],
      says: f.says,
    }))
    if (read.document) {
      refuseArea(person, read.document.area)
      const known = await documentsByTag(tx)
      if (!known.has(read.document.tag.toUpperCase())) {
        await createLoop(tx, randomUUID(), read.document, person, 'imported after mending', at)
        await tx.delete(heldRows).where(eq(heldRows.id, id))
        await tellWindows(tx, { what: 'held' })
        return null
      }
      findings.push({
        code: 'DUPLICATE_TAG',
        severity: 'stop',
        where: ['tag'],
        says: `${read.document.tag} is in the plant already. Give this row another tag, or drop it.`,
      })
    }
    await tx.update(heldRows).set({ cells, findings }).where(eq(heldRows.id, id))
    await tellWindows(tx, { what: 'held' })
    return { id, row: row.row, cells, findings }
  })
}

export async function letGo(db: Executor, id: string): Promise<void> {
  const gone = await db.delete(heldRows).where(eq(heldRows.id, id)).returning({ id: heldRows.id })
  if (gone.length === 0) throw conflict('This row has been dealt with already.')
  await tellWindows(db, { what: 'held' })
}

/** The plant's list in the form it came in: semicolons, byte-order mark, numbers as typed. */
export async function exportList(db: Executor): Promise<string> {
  const known = await documentsByTag(db)
  const rows = [...known.values()].map((k) => writeRow(k.document))
  return csvOf([LIST_COLUMNS.map((c) => c.title), ...rows], ';')
}

/** The same as a spreadsheet: every cell is text, as it was typed, so that no program reads it as something else. */
export async function exportSheet(db: Executor): Promise<Buffer> {
  const known = await documentsByTag(db)
  const head = LIST_COLUMNS.map((c) => ({ value: c.title, fontWeight: 'bold' as const }))
  const rows = [...known.values()].map((k) => writeRow(k.document).map((value) => ({ value, type: String })))
  return writeXlsxFile([head, ...rows], { sheet: 'Loops' }).toBuffer()
}
