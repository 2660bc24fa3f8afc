import type { SheetLine } from '../family/family.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { convertRangeEnd, findUnit } from '../quantity/units.ts'
import { NOTHING_DOUBTED, type Rests, type RestsOn } from './rests-on.ts'
import { halfPlace, quantityOf } from './sheet-units.ts'

/**
 * What somebody typed for a line in another unit than it is printed in: `8.625 in` beside 219.08 mm; null where it is
 * printed as it was typed, or follows from more than one entry.
 * @param asTyped - of the document, by the paths of its fields
 */
export function typedFor(line: SheetLine, asTyped: Readonly<Record<string, string>>): string | null {
  const q = quantityOf(line)
  if (!q) return null
  const found = Object.entries(asTyped).find(([path, text]) => {
    const n = parseNumber(text)
    const unit = n.kind === 'number' ? findUnit(n.rest)?.symbol : undefined
    if (!path.startsWith('setUp.') || n.kind !== 'number' || unit === undefined || unit === q.unit)
      return false
    const told = convertRangeEnd(n.value, unit, q.unit)
    return told.kind === 'value' && Math.abs(told.value - q.value) <= halfPlace(line.value) * 1.01
  })
  return found ? found[1].trim() : null
}

/** The last line of every settings sheet. */
export const STORE = 'Store the settings: what is not stored is lost at the next power cycle.'

/** What a line of the sheet rests on; nothing doubted where nothing is known of it. */
export const doubtOf = (rests: Rests | null, line: SheetLine): RestsOn =>
  rests?.sheet.get(line.says) ?? NOTHING_DOUBTED

/** What cannot be said of a line as a fact, in words; empty where all of it can. */
export const sayDoubt = (d: RestsOn): string =>
  [
    ...(d.stopped.length > 0 ? [`stop: ${d.stopped.join(', ')}`] : []),
    ...(d.refused.length > 0 ? [`refused: ${d.refused.join(', ')}`] : []),
    ...(d.assumed.length > 0 ? [`assumed: ${d.assumed.join(', ')}`] : []),
  ].join('; ')

/** The value as it may be printed: what rests on an entry that cannot be is not known. */
export const toldValue = (line: SheetLine, d: RestsOn): string =>
  d.refused.length > 0 ? 'not known' : line.value
