import { plainDigits } from './numbers.ts'
import type { LogMapping } from './sniff.ts'
import { plainWall } from './times.ts'

/** A row whose fields are as most files have them: its clock, ms, and its values; null where a field is empty. */
export interface PlainRow {
  readonly wall: number
  readonly values: readonly (number | null)[]
}

const [CR, QUOTE] = [13, 34]

/**
 * Reads a line in one pass, without cutting it up, where each of its fields is of the commonest kind. What it reads is
 * what reading it field by field gives; of every other line it says nothing.
 * @returns null where no line of such a file can be read like this
 */
export function plainRow(
  m: LogMapping,
): ((text: string, from: number, to: number) => PlainRow | null) | null {
  if (m.time.format !== 'YMD' || m.isDecimalDelimiter || m.delimiter === ' ') return null
  const kinds = m.columns.map((c) =>
    c.kind === 'time' ? 'time' : c.kind === 'value' || c.kind === 'quality' ? 'value' : 'other',
  )
  if (kinds.filter((k) => k === 'time').length !== 1) return null
  const delimiter = m.delimiter.charCodeAt(0)
  return (text, from, to) => {
    const end = text.charCodeAt(to - 1) === CR ? to - 1 : to
    const values: (number | null)[] = []
    let wall = NaN
    let begins = from
    for (let k = 0; k < kinds.length; k++) {
      let ends = begins
      for (; ends < end; ends++) {
        const c = text.charCodeAt(ends)
        if (c === delimiter) break
        if (c === QUOTE) return null
      }
      // A line that is too short, or too long.
      if ((k === kinds.length - 1) !== ends >= end) return null
      const kind = kinds[k]
      if (kind === 'time') {
        wall = plainWall(text, begins, ends)
        if (wall !== wall) return null
      } else if (kind === 'value') {
        const value = begins === ends ? null : plainDigits(text, begins, ends, m.decimal)
        if (value !== value) return null
        values.push(value)
      }
      begins = ends + 1
    }
    return { wall, values }
  }
}
