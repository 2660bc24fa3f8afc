import { harmlessCell } from '@calm/core/harmless-cell'
import Papa from 'papaparse'

/**
 * A table on its way out as CSV, with a byte-order mark: numbers as they are, and no text that a spreadsheet would
 * run. Everything that leaves as CSV goes through here.
 */
export const csvOf = (rows: readonly (readonly unknown[])[], delimiter = ','): string =>
  `\ufeff${Papa.unparse(
    rows.map((r) => r.map((cell) => (typeof cell === 'string' ? harmlessCell(cell) : cell))),
    { delimiter },
  )}\r\n`
