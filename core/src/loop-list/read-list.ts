import type { Finding } from '../finding.ts'
import type { LoopDocument } from '../loop/document.ts'
import { leftBehind } from '../scale/unit-change.ts'
import { differences, type FieldChange } from '../record/revision-difference.ts'
import type { ColumnMapping } from './columns.ts'
import { cellsOf, readRow, type Cells } from './read-row.ts'
import { NOTHING_SAID, type PlantSays } from '../loop/usual.ts'
import { updatedByList } from './updated-by-list.ts'

export type RowStanding = 'new' | 'same' | 'changed' | 'bad'

export interface ListRow {
  /** Line of the file as people count: the heading is 1. */
  readonly row: number
  readonly cells: Cells
  readonly standing: RowStanding
  readonly document: LoopDocument | null
  readonly findings: readonly Finding[]
  /** For a changed row: what would differ from the loop as it is here. */
  readonly changes: readonly FieldChange[]
}

/**
 * Reads a whole list: each row's loop, what is wrong with it, and how it stands to the loops already here.
 * The first of two rows with one tag is kept, the later one is held back.
 * @param known - the loop with this tag as it is here, or null.
 * @param plant - what this plant has said about what a row may leave out
 */
export function readList(
  records: readonly (readonly string[])[],
  mapping: ColumnMapping,
  known: (tag: string) => LoopDocument | null,
  plant: PlantSays = NOTHING_SAID,
): ListRow[] {
  const firstRowOf = new Map<string, number>()
  return records.map((record, i) => {
    const row = i + 2
    const cells = cellsOf(record, mapping)
    // What a row leaves out of a loop that is here already is not decided anew for it.
    const isNew = known(cells.tag ?? '') === null
    const read = readRow(cells, isNew ? plant : { ...plant, byKind: {} })
    const findings = [...read.findings]
    const key = (read.cells.tag ?? '').toUpperCase()
    const earlier = key === '' ? undefined : firstRowOf.get(key)
    if (earlier !== undefined)
      findings.push({
        code: 'DUPLICATE_TAG',
        severity: 'stop',
        where: ['tag'],
        says: `${read.cells.tag} stands in row ${earlier} already. Give this row a tag of its own, or leave it out.`,
      })
    else if (key !== '') firstRowOf.set(key, row)
    const here = read.document ? known(read.document.tag) : null
    const after = here && read.document ? updatedByList(here, read.document, cells) : read.document
    // Limits and relays stand in the unit of the range: under another one their points would be others.
    if (here && after && leftBehind(here, after))
      findings.push({
        code: 'LEFT_IN_ANOTHER_UNIT',
        severity: 'stop',
        where: ['unit'],
        says: `${here.tag} has limits of its sensor or relays in the unit of its range. Change that unit under Scale, where they are seen and taken over.`,
      })
    const document = findings.some((f) => f.severity === 'stop') ? null : after
    const changes = document && here ? differences(here, document) : []
    const standing: RowStanding = !document ? 'bad' : !here ? 'new' : changes.length > 0 ? 'changed' : 'same'
    return { row, cells: read.cells, standing, document, findings, changes }
  })
}
