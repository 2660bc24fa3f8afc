/** A cell that a spreadsheet would take for a formula is shown as text; plain numbers stay numbers. */
export const harmlessCell = (cell: string): string =>
  /^[=@\t\r]|^[+-](?![\d.,])/.test(cell) ? `'${cell}` : cell
