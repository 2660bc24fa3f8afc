/** A number as lists write it: digits, one decimal sign, an exponent, or thousands in groups of three. */
const NUMBER =
  /^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d{1,3})?$|^[+-]?\d{1,3}([ \u00a0\u202f]\d{3})+([.,]\d+)?$/
/** What makes a spreadsheet run a cell; full-width forms and white space in front do too. */
const RUNS = /^[\s\u00a0\ufeff]*[=+\-@|\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/

const wouldRun = (cell: string): boolean => RUNS.test(cell) && !NUMBER.test(cell)

/**
 * A cell that a spreadsheet would take for a formula is shown as text by an apostrophe in front; the whole cell is
 * judged, so that a number stays one (`-4.5`) and what only begins like one does not (`-1+cmd`).
 */
export const harmlessCell = (cell: string): string =>
  // An own apostrophe before such a text gets one more, so that taking off gives back what was there.
  wouldRun(cell) || (/^'+/.test(cell) && wouldRun(cell.replace(/^'+/, ''))) ? `'${cell}` : cell

/** Takes the guard off again: the text that `harmlessCell` was given. */
export const unguardedCell = (cell: string): string =>
  cell.startsWith("'") && harmlessCell(cell.slice(1)) === cell ? cell.slice(1) : cell
