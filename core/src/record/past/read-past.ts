import { partedHeading } from '../../quantity/heading.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { unguardedCell } from '../../harmless-cell.ts'
import { readDay } from './read-day.ts'

/** What a column of a table of earlier certificates holds. */
export const PAST_COLUMNS = {
  tag: { title: 'Tag', like: /^(tag( no\.?| number)?|loop|position)$/i },
  on: { title: 'Date', like: /^(date|calibrated|calibration date|cal date|on|day|performed)( on)?$/i },
  number: { title: 'Certificate', like: /^(certificate|cert|certificate no\.?|number|no\.?|report|order)$/i },
  by: { title: 'By', like: /^(by|technician|laboratory|lab|performed by|who)$/i },
  applied: {
    title: 'Applied',
    like: /^(applied|input|reference|ref|true|standard|point|level|test point|set ?point)( value)?$/i,
  },
  foundError: {
    title: 'Error as found, %',
    like: /^(as[ -]?found error|error as[ -]?found|found error|error before)$/i,
  },
  leftError: {
    title: 'Error as left, %',
    like: /^(as[ -]?left error|error as[ -]?left|left error|error after)$/i,
  },
  found: { title: 'As found', like: /^(as[ -]?found|found|before)( reading| value)?$/i },
  left: { title: 'As left', like: /^(as[ -]?left|left|after)( reading| value)?$/i },
} as const
export type PastColumn = keyof typeof PAST_COLUMNS
export type PastMapping = readonly (PastColumn | null)[]

/** The mapping that the headings suggest; what nobody knows stays out until a person says. */
export function suggestPast(headings: readonly string[]): PastMapping {
  const taken = new Set<PastColumn>()
  return headings.map((heading) => {
    const { name } = partedHeading(heading)
    const bare = name.replace(/ %$/, '').trim()
    const hit = (Object.keys(PAST_COLUMNS) as PastColumn[]).find(
      (c) => !taken.has(c) && PAST_COLUMNS[c].like.test(bare),
    )
    if (hit) taken.add(hit)
    return hit ?? null
  })
}

/** A value with the unit that stood with it; empty where none did. */
export interface Told {
  readonly value: number
  readonly unit: string
}
/** One point of a certificate as it stood in the table. */
export interface PastRow {
  /** In the file, from 1. */
  readonly line: number
  readonly tag: string
  readonly on: string
  readonly number: string
  readonly by: string
  readonly applied: Told
  /** Readings, or errors in percent of span. */
  readonly as: 'reading' | 'error'
  readonly found: Told
  readonly left: Told | null
}
export interface WrongRow {
  readonly line: number
  readonly says: string
}

/**
 * Reads a table of earlier certificates, one row for each point. Tag, date, number and person may stand in the first
 * row of a certificate only.
 * @param tag - the loop that all of it belongs to, where the table has no column of tags
 */
export function readPast(
  records: readonly (readonly string[])[],
  mapping: PastMapping,
  tag: string | null,
): { readonly rows: readonly PastRow[]; readonly wrong: readonly WrongRow[] } {
  const [heading = [], ...body] = records
  const at = (c: PastColumn) => mapping.indexOf(c)
  const wrong: WrongRow[] = []
  const need: readonly (readonly [boolean, string])[] = [
    [tag === null && at('tag') < 0, 'No column holds the tag.'],
    [at('on') < 0, 'No column holds the date.'],
    [at('applied') < 0, 'No column holds what was applied.'],
    [at('found') < 0 && at('foundError') < 0, 'No column holds what was found.'],
  ]
  const lacking = need.find(([lacks]) => lacks)
  if (lacking) return { rows: [], wrong: [{ line: 1, says: `${lacking[1]} Say which one does.` }] }
  const as = at('found') >= 0 ? ('reading' as const) : ('error' as const)
  const unitOf = (c: PastColumn) =>
    partedHeading(heading[at(c)] ?? '').unit || (/%\s*$/.test(heading[at(c)] ?? '') ? '%' : '')
  let before = { tag: tag ?? '', on: '', number: '', by: '' }
  const rows = body.flatMap((record, i): PastRow[] => {
    const line = i + 2
    const text = (c: PastColumn) => (at(c) < 0 ? '' : unguardedCell((record[at(c)] ?? '').trim()))
    const value = (c: PastColumn): Told | null | string => {
      const parsed = parseNumber(text(c))
      if (parsed.kind === 'empty') return null
      if (parsed.kind === 'refused') return parsed.says
      return { value: parsed.value, unit: parsed.rest || unitOf(c) }
    }
    const begins = text('on') !== '' || (tag === null && text('tag') !== '')
    if (begins) {
      const told = readDay(text('on'))
      if ('says' in told) {
        wrong.push({ line, says: told.says })
        before = { ...before, on: '' }
        return []
      }
      before = {
        tag: tag ?? (text('tag') || before.tag),
        on: told.day,
        number: text('number'),
        by: text('by'),
      }
    }
    if (before.on === '' || before.tag === '') {
      wrong.push({
        line,
        says: 'It belongs to no certificate: no date, or none that is one, stands before it.',
      })
      return []
    }
    const [applied, found, left] = [
      value('applied'),
      value(as === 'reading' ? 'found' : 'foundError'),
      value(as === 'reading' ? 'left' : 'leftError'),
    ]
    const refused = [applied, found, left].find((v) => typeof v === 'string')
    if (typeof refused === 'string' || applied === null || found === null) {
      wrong.push({
        line,
        says:
          typeof refused === 'string'
            ? refused
            : applied === null
              ? 'What was applied is not told.'
              : 'What was found is not told.',
      })
      return []
    }
    return [
      { line, ...before, as, applied: applied as Told, found: found as Told, left: left as Told | null },
    ]
  })
  return { rows, wrong }
}
