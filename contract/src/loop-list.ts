import { LIST_COLUMN_IDS } from '@calm/core/loop-list/columns'
import { DATE_ORDERS } from '@calm/core/loop/usual'
import { z } from 'zod'

const CellsSchema = z.partialRecord(z.enum(LIST_COLUMN_IDS), z.string().max(2000))

export const FindingSchema = z.object({
  code: z.string(),
  severity: z.enum(['stop', 'warn', 'note', 'good']),
  where: z.array(z.string()),
  says: z.string(),
})

export const ListRowSchema = z.object({
  row: z.int(),
  cells: CellsSchema,
  standing: z.enum(['new', 'same', 'changed', 'bad']),
  findings: z.array(FindingSchema),
  changes: z.array(z.object({ path: z.string(), name: z.string(), before: z.unknown(), after: z.unknown() })),
})
export type ListRowTold = z.output<typeof ListRowSchema>

const Mapping = z.array(z.enum(LIST_COLUMN_IDS).nullable()).max(200)

/** A list as text; the mapping is what a person corrected, or absent at the first look. */
export const PreviewRequest = z.strictObject({
  text: z.string().max(4_000_000, 'At most 4 MB. Split the list.'),
  mapping: Mapping.optional(),
  /** Which comes first in its dates, where they do not say it themselves. */
  dateOrder: z.enum(DATE_ORDERS).optional(),
})

export const Preview = z.object({
  headings: z.array(z.string()),
  mapping: Mapping,
  rows: z.array(ListRowSchema),
})
export type Preview = z.output<typeof Preview>

export const ImportRequest = PreviewRequest.extend({
  /** Made by the client: the same import sent twice is done once. */
  id: z.uuid(),
  /** Rows whose loop exists with other values and shall be changed. */
  update: z.array(z.int()).max(20_000),
})

export const ImportResult = z.object({
  created: z.int(),
  updated: z.int(),
  same: z.int(),
  held: z.int(),
})
export type ImportResult = z.output<typeof ImportResult>

/** An import that was done, and whether it was undone. */
export const LoopImport = z.object({
  id: z.uuid(),
  at: z.string(),
  byName: z.string(),
  result: ImportResult,
  undone: z.object({ at: z.string(), byName: z.string(), reason: z.string() }).nullable(),
  /** Done before imports could be undone. */
  old: z.boolean(),
})
export type LoopImport = z.output<typeof LoopImport>

/** A row that could not be imported, kept until it is mended or let go. */
export const HeldRow = z.object({
  id: z.uuid(),
  row: z.int(),
  cells: CellsSchema,
  findings: z.array(FindingSchema),
})
export type HeldRow = z.output<typeof HeldRow>

export const MendRow = z.strictObject({ cells: CellsSchema })
