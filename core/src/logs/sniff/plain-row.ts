import { plainDigits } from './numbers.ts'
import type { LogMapping } from './sniff.ts'
import { plainWall } from './times.ts'

const [CR, QUOTE] = [13, 34]
const [OTHER, TIME, VALUE] = [0, 1, 2]
/** Signs of `2026-03-01 10:00:00`. */
const CLOCK = 19

/**
 * Reads a line in one pass, without cutting it up, where each of its fields is of the commonest kind. What it reads is
 * what reading it field by field gives; of every other line it says nothing.
 * @returns null where no line of such a file can be read like this; else what reads a line: its clock, ms, its values put
 * in their order where they are asked for, NaN where a field is empty. NaN: this line is not of that kind.
 */
export function plainRow(
  m: LogMapping,
): ((text: string, from: number, to: number, values: number[]) => number) | null {
  if (m.time.format !== 'YMD' || m.isDecimalDelimiter || m.delimiter === ' ') return null
  const kinds = m.columns.map((c) =>
    c.kind === 'time' ? TIME : c.kind === 'value' || c.kind === 'quality' ? VALUE : OTHER,
  )
  if (kinds.filter((k) => k === TIME).length !== 1) return null
  const delimiter = m.delimiter.charCodeAt(0)
  return (text, from, to, values) => {
    const end = text.charCodeAt(to - 1) === CR ? to - 1 : to
    let [wall, begins, place] = [NaN, from, 0]
    for (let k = 0; k < kinds.length; k++) {
      const kind = kinds[k]
      let ends = begins
      // A clock is as long as it always is, and its own reader looks at each of its signs.
      const after = begins + CLOCK
      if (kind === TIME && (after === end || (after < end && text.charCodeAt(after) === delimiter)))
        ends = after
      else
        for (; ends < end; ends++) {
          const c = text.charCodeAt(ends)
          if (c === delimiter) break
          if (c === QUOTE) return NaN
        }
      // A line that is too short, or too long.
      if ((k === kinds.length - 1) !== ends >= end) return NaN
      if (kind === TIME) {
        wall = plainWall(text, begins, ends)
        if (wall !== wall) return NaN
      } else if (kind === VALUE) {
        const value = begins === ends ? NaN : plainDigits(text, begins, ends, m.decimal)
        if (value !== value && begins !== ends) return NaN
        values[place++] = value
      }
      begins = ends + 1
    }
    return wall
  }
}
