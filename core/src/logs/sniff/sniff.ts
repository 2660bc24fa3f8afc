import { type Delimiter, delimiterOf, fieldsOf } from './fields.ts'
import { headingOf, logUnit } from './heading-unit.ts'
import { isEmptyField, isNumberField, numberBy, type Sign, voteOn } from './numbers.ts'
import { rowReader } from './read-rows.ts'
import { isClockField, isDateField, isTimeField, orderOf, type TimeFormat } from './times.ts'

export const COLUMN_KINDS = ['time', 'date', 'clock', 'value', 'quality', 'text'] as const
export type ColumnKind = (typeof COLUMN_KINDS)[number]

export interface LogColumn {
  readonly name: string
  /** Symbol of a unit the product knows; null: none stands there. */
  readonly unit: string | null
  readonly kind: ColumnKind
}

/** How a file is to be read: what was sniffed, or what a person corrected. Kept for the device. */
export interface LogMapping {
  readonly delimiter: Delimiter
  readonly decimal: Sign
  /** A comma both parts fields and stands before decimals: every value is two fields. */
  readonly isDecimalDelimiter: boolean
  readonly headerLines: number
  readonly columns: readonly LogColumn[]
  readonly time: {
    readonly format: TimeFormat
    /** Seconds of one unit of a counted time. */
    readonly unit_s: number
  }
  /** IANA name; where times carry their own offset it does not count. */
  readonly zone: string
}

export interface SniffFinding {
  readonly code:
    | 'DECIMAL_IS_DELIMITER'
    | 'MIXED_DECIMAL'
    | 'UNDECIDED_DECIMAL'
    | 'UNDECIDED_DATE'
    | 'NO_TIME'
    | 'UNIT_MISSING'
    | 'LOCAL_NONEXISTENT'
    | 'LOCAL_AMBIGUOUS'
  /** Counted from 1, as an editor shows it. */
  readonly line: number
}
export interface WrongRow {
  readonly line: number
  readonly reason: 'FIELDS' | 'TIME' | 'NUMBER'
}

export interface Sniffed {
  readonly mapping: LogMapping
  readonly thousands: string | null
  readonly first: number | null
  readonly last: number | null
  readonly rows: number
  readonly wrong: readonly WrongRow[]
  readonly findings: readonly SniffFinding[]
}

interface Row {
  readonly line: number
  readonly fields: readonly string[]
}

const isUnitField = (f: string) => logUnit(f.replace(/^[[(]|[\])]$/g, '')) !== null
const isDatum = (f: string) =>
  isEmptyField(f) || isNumberField(f) || isTimeField(f) || isDateField(f) || isClockField(f)

/** Half of the fields are data and one of those has a digit. */
const isDataRow = (fields: readonly string[]) => {
  const data = fields.filter(isDatum)
  return data.length >= fields.length / 2 && data.some((f) => /\d/.test(f))
}

const share = (fields: readonly string[], is: (f: string) => boolean) => {
  const told = fields.filter((f) => !isEmptyField(f))
  return told.length === 0 ? 0 : told.filter(is).length / told.length
}

function kindOf(fields: readonly string[]): ColumnKind {
  if (share(fields, isTimeField) >= 0.9) return 'time'
  if (share(fields, isDateField) >= 0.9) return 'date'
  if (share(fields, isClockField) >= 0.9) return 'clock'
  return share(fields, isNumberField) >= 0.8 ? 'value' : 'text'
}

/** Fields of which each value stands in two, joined again: 12,5 read with a comma between fields. */
export function joinedPairs(fields: readonly string[], times: number): string[] {
  const out = fields.slice(0, times)
  for (let i = times; i + 1 < fields.length; i += 2) out.push(`${fields[i] ?? ''},${fields[i + 1] ?? ''}`)
  return out
}

/** Whether a comma both parts fields and stands before decimals; then the count of fields after joining. */
function commaIsBoth(rows: readonly Row[], head: readonly Row[], delimiter: Delimiter): number | null {
  const first = rows[0]?.fields
  if (delimiter !== ',' || !first) return null
  const times = first.slice(0, 2).filter((f) => isTimeField(f) || isDateField(f) || isClockField(f)).length
  const heading = head.at(-1)?.fields.length ?? 0
  if (heading < 2 || first.length !== 2 * heading - times) return null
  const isCut = rows.every(({ fields }) =>
    fields.every((f, i) => i < times || (i - times) % 2 === 0 || /^\d+$/.test(f) || isEmptyField(f)),
  )
  return isCut ? times : null
}

/** Name and unit of each column, from the head of the file. */
function headingsOf(head: readonly Row[], count: number): { name: string; unit: string | null }[] {
  const fitting = head.filter((r) => r.fields.length === count)
  const last = fitting.at(-1)?.fields
  if (!last) return Array.from({ length: count }, (_, i) => ({ name: `Column ${i + 1}`, unit: null }))
  const above = fitting.at(-2)?.fields
  const areUnits = last.every((f) => f === '' || isUnitField(f)) && last.some(isUnitField)
  if (areUnits && above)
    return above.map((name, i) => ({
      name: name.trim(),
      unit: logUnit((last[i] ?? '').replace(/^[[(]|[\])]$/g, '')) ?? headingOf(name).unit,
    }))
  return last.map(headingOf)
}

const TIME_WORD = /time|zeit|elapsed|\bsec/i
const UNIT_S: Readonly<Record<string, number>> = { ms: 0.001, s: 1, min: 60, h: 3600 }

/** What the numbers of a first column mean as times; null where they are values. */
function countedTime(
  numbers: readonly number[],
  { name, unit }: { readonly name: string; readonly unit: string | null },
): { readonly format: TimeFormat; readonly unit_s: number } | null {
  let rising = 0
  for (let i = 1; i < numbers.length; i++) if ((numbers[i] ?? 0) > (numbers[i - 1] ?? 0)) rising++
  if (numbers.length < 2 || rising < 0.95 * (numbers.length - 1)) return null
  const all = (lo: number, hi: number) => numbers.every((x) => x >= lo && x <= hi)
  if (all(9e11, 4.2e12)) return { format: 'EPOCH_MS', unit_s: 0.001 }
  if (all(9e8, 4.2e9)) return { format: 'EPOCH_S', unit_s: 1 }
  if (all(2e4, 8e4) && numbers.some((x) => !Number.isInteger(x)))
    return { format: 'SERIAL_DAY', unit_s: 86_400 }
  const unit_s = UNIT_S[unit ?? '']
  return unit_s !== undefined || TIME_WORD.test(name) ? { format: 'RELATIVE', unit_s: unit_s ?? 1 } : null
}

/**
 * What a file of measurements is: what parts its fields, its decimal sign, its head, its columns with their units,
 * its times. Every choice can be corrected before the file is read.
 * @param lines - as they stand, at most the first two thousand
 * @param zone - in which its clock stands, IANA
 * @returns null where no line has two fields
 */
export function sniff(lines: readonly string[], zone = 'UTC'): Sniffed | null {
  const kept = lines
    .map((text, i) => ({ line: i + 1, text: text.replace(/^\uFEFF/, '').replace(/[\r\n]+$/, '') }))
    .filter((l) => l.text.trim() !== '')
  const parted = delimiterOf(kept.map((l) => l.text))
  if (!parted) return null
  const { delimiter, count } = parted
  const rows = kept.map(({ line, text }): Row => ({ line, fields: fieldsOf(text, delimiter) }))
  const start = rows.findIndex((r) => r.fields.length === count && isDataRow(r.fields))
  if (start < 0) return null
  const findings: SniffFinding[] = []
  const [head, body] = [rows.slice(0, start), rows.slice(start)]
  const whole = body.filter((r) => r.fields.length === count)
  const times = commaIsBoth(whole, head, delimiter)
  const isDecimalDelimiter = times !== null
  const data = isDecimalDelimiter
    ? whole.map((r) => ({ line: r.line, fields: joinedPairs(r.fields, times) }))
    : whole
  const width = data[0]?.fields.length ?? count
  const headLine = head.filter((r) => r.fields.length === width).at(-1)?.line ?? data[0]?.line ?? 1
  if (isDecimalDelimiter) findings.push({ code: 'DECIMAL_IS_DELIMITER', line: data[0]?.line ?? 1 })
  const columnFields = Array.from({ length: width }, (_, i) => data.map((r) => r.fields[i] ?? ''))
  const kinds = columnFields.map(kindOf)
  const headings = headingsOf(head, width)
  const values = data.flatMap((r) =>
    r.fields.flatMap((f, i) =>
      kinds[i] === 'value' && !isEmptyField(f) && isNumberField(f) ? [{ f, line: r.line }] : [],
    ),
  )
  const vote = voteOn(values.map((x) => x.f))
  if (vote.finding) findings.push({ code: vote.finding, line: values[vote.at]?.line ?? 1 })
  const time = timeOf(kinds, columnFields, headings, vote.decimal)
  if (time.isUndecided) findings.push({ code: 'UNDECIDED_DATE', line: data[0]?.line ?? 1 })
  if (time.format === 'NONE') findings.push({ code: 'NO_TIME', line: headLine })
  const columns = kinds.map((kind, i): LogColumn => {
    const { name, unit } = headings[i] ?? { name: `Column ${i + 1}`, unit: null }
    if (i === time.column) return { name, unit, kind: 'time' }
    const isQuality = kind === 'value' && /quality|signal|qual/i.test(name) && (unit === null || unit === '%')
    return isQuality ? { name, unit: '%', kind: 'quality' } : { name, unit, kind }
  })
  for (const c of columns)
    if (c.kind === 'value' && c.unit === null) findings.push({ code: 'UNIT_MISSING', line: headLine })
  const mapping: LogMapping = {
    delimiter,
    decimal: vote.decimal,
    isDecimalDelimiter,
    headerLines: (data[0]?.line ?? 1) - 1,
    columns,
    time: { format: time.format, unit_s: time.unit_s },
    zone,
  }
  return {
    mapping,
    thousands: thousandsOf(
      vote.thousands,
      values.map((x) => x.f),
    ),
    ...readAll(mapping, lines, findings),
  }
}

const thousandsOf = (voted: Sign | null, fields: readonly string[]): string | null => {
  if (voted) return voted
  const blank = fields.find((f) => /\d['’   ]\d/.test(f))
  return blank === undefined ? null : (/['’   ]/.exec(blank)?.[0] ?? null)
}

/** Reads what is there by the mapping found: times of the first and last row, and every row that is wrong. */
function readAll(mapping: LogMapping, lines: readonly string[], findings: SniffFinding[]) {
  const read = rowReader(mapping)
  const wrong: WrongRow[] = []
  let [rows, first, last] = [0, null as number | null, null as number | null]
  const said = new Set<string>()
  lines.forEach((text, i) => {
    const row = read(text, i + 1)
    if (row === null) return
    if (row.kind === 'wrong') wrong.push({ line: i + 1, reason: row.reason })
    if (row.kind === 'wrong' && row.reason === 'FIELDS') return
    rows++
    if (row.kind === 'wrong') return
    if (row.doubt && !said.has(row.doubt)) {
      said.add(row.doubt)
      findings.push({ code: row.doubt, line: i + 1 })
    }
    if (row.t === null) return
    first ??= row.t
    last = row.t
  })
  return { first, last, rows, wrong, findings }
}

function timeOf(
  kinds: readonly ColumnKind[],
  columns: readonly (readonly string[])[],
  headings: readonly { readonly name: string; readonly unit: string | null }[],
  decimal: Sign,
): { format: TimeFormat; unit_s: number; column: number; isUndecided: boolean } {
  const dated = kinds.findIndex((k) => k === 'time' || k === 'date')
  if (dated >= 0) {
    const clock = kinds.indexOf('clock')
    const fields = (columns[dated] ?? []).map((f, i) =>
      kinds[dated] === 'date' && clock >= 0 ? `${f} ${columns[clock]?.[i] ?? ''}` : f,
    )
    const { order, isUndecided } = orderOf(fields)
    return { format: order, unit_s: 1, column: kinds[dated] === 'time' ? dated : -1, isUndecided }
  }
  const clock = kinds.indexOf('clock')
  if (clock >= 0) return { format: 'ELAPSED', unit_s: 1, column: clock, isUndecided: false }
  const counted = kinds.indexOf('value')
  const numbers = (columns[counted] ?? []).flatMap((f) => numberBy(f, decimal) ?? [])
  const found = counted < 0 ? null : countedTime(numbers, headings[counted] ?? { name: '', unit: null })
  return found
    ? { ...found, column: counted, isUndecided: false }
    : { format: 'NONE', unit_s: 1, column: -1, isUndecided: false }
}
