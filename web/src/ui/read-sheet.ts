import Papa from 'papaparse'
import { readTextFile } from './read-text-file.ts'

const MOST_BYTES = 8_000_000
/** Noon of a day in a spreadsheet is that day anywhere. */
const dayOf = (d: Date) => d.toISOString().slice(0, 10)

/** A cell as a person would have typed it into a list. */
export function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return ''
  if (cell instanceof Date) return dayOf(cell)
  if (typeof cell === 'string') return cell
  return typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : ''
}

/**
 * The first sheet of a spreadsheet as a list in text: what stands above the headings, lines with one cell or none, is
 * left out.
 * @throws Error with a sentence where it is no spreadsheet, or too large
 */
async function readSheetAsList(file: File): Promise<string> {
  if (file.size > MOST_BYTES)
    throw new Error(`The file has ${Math.round(file.size / 1e6)} MB. At most 8 MB; split the list.`)
  const { readSheet } = await import('read-excel-file/browser')
  let rows: readonly (readonly unknown[])[]
  try {
    rows = await readSheet(file)
  } catch {
    throw new Error('This spreadsheet cannot be read. Save it as .xlsx or as CSV, and choose that file.')
  }
  const cells = rows.map((row) => row.map(cellText))
  const head = cells.findIndex((row) => row.filter((c) => c.trim() !== '').length > 1)
  return Papa.unparse(cells.slice(Math.max(0, head)), { delimiter: ';', newline: '\n' })
}

/**
 * A list as people have it, a spreadsheet or text, as text.
 * @throws Error with a sentence where it cannot be read, or is too large
 */
export const readListFile = (file: File): Promise<string> =>
  /\.xlsx$/i.test(file.name) ? readSheetAsList(file) : readTextFile(file)
