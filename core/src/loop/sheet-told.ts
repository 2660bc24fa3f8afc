import type { SheetLine } from '../family/family.ts'
import { NOTHING_DOUBTED, type Rests, type RestsOn } from './rests-on.ts'

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
