import { harmlessCell } from '@calm/core/harmless-cell'
import { saveFile } from './save-file.ts'

/**
 * Hands rows that this page has to the person as a CSV file, no cell of it a formula. What writes it is fetched when
 * somebody asks: no page waits for it.
 */
export async function saveCsv(name: string, rows: readonly (readonly string[])[]): Promise<void> {
  const { default: Papa } = await import('papaparse')
  const text = Papa.unparse(rows.map((r) => r.map(harmlessCell)))
  saveFile(name, 'text/csv', `\uFEFF${text}\r\n`)
}
