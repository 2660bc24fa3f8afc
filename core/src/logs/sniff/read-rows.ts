import { fieldsOf } from './fields.ts'
import { localClock, type LocalTime, type WallState } from './local-time.ts'
import { isEmptyField, numberBy } from './numbers.ts'
import { plainRow } from './plain-row.ts'
import { joinedPairs, type LogMapping, type WrongRow } from './sniff.ts'
import { elapsedOf, wallTime } from './times.ts'

/** One row of a file: its time, and a value for each column that has values, in their order. */
export interface ReadRow {
  readonly kind: 'row'
  /** ms; since 1970, or since the log's own beginning. null where the file tells no time. */
  readonly t: number | null
  readonly values: readonly (number | null)[]
  readonly doubt: LocalTime['doubt']
}
export type RowRead = ReadRow | { readonly kind: 'wrong'; readonly reason: WrongRow['reason'] } | null

const DAY = 86_400_000
const HALF_A_DAY = DAY / 2
const CR = 13

/** Columns of which numbers are kept: values and signal quality, in the order of the file. */
export const valueColumns = (m: LogMapping): readonly number[] =>
  m.columns.flatMap((c, i) => (c.kind === 'value' || c.kind === 'quality' ? [i] : []))

/** What the times of rows depend on besides themselves: kept from one piece of a file to the next. */
export interface ReadState extends WallState {
  /** Midnights that a clock without a date has passed, and where it was, ms. */
  days: number
  clock: number | null
}
export const freshState = (): ReadState => ({ wall: null, isSecond: false, days: 0, clock: null })

type Timed = { readonly t: number | null; readonly doubt: LocalTime['doubt'] } | null

/** Reads the time of rows in their order: a clock that passes midnight and a double hour need what came before. */
function timeReader(
  m: LogMapping,
  s: ReadState,
  local: ReturnType<typeof localClock>,
): (fields: readonly string[]) => Timed {
  const at = (kind: string) => m.columns.findIndex((c) => c.kind === kind)
  const [time, date, clock] = [at('time'), at('date'), at('clock')]
  const plain = (t: number): Timed => ({ t, doubt: null })
  const { format, unit_s } = m.time
  switch (format) {
    case 'NONE':
      return () => ({ t: null, doubt: null })
    case 'ELAPSED':
      return (fields) => {
        const ms = elapsedOf(fields[time] ?? '')
        if (ms === null) return null
        if ((s.clock ?? ms) - ms > HALF_A_DAY) s.days++
        s.clock = ms
        return plain(s.days * DAY + ms)
      }
    case 'EPOCH_MS':
    case 'EPOCH_S':
    case 'RELATIVE':
    case 'SERIAL_DAY':
      return (fields) => {
        const x = numberBy(fields[time] ?? '', m.decimal)
        if (x === null) return null
        if (format !== 'SERIAL_DAY') return plain(x * unit_s * 1000)
        const { utc, doubt } = local(Math.round((x - 25_569) * DAY))
        return { t: utc, doubt }
      }
    case 'YMD':
    case 'DMY':
    case 'MDY':
      return (fields) => {
        const text =
          time >= 0
            ? fields[time]
            : clock >= 0
              ? `${fields[date] ?? ''} ${fields[clock] ?? ''}`
              : fields[date]
        const told = wallTime(text ?? '', format)
        if (!told) return null
        if (told.offset !== null) return plain(told.wall - told.offset)
        const { utc, doubt } = local(told.wall)
        return { t: utc, doubt }
      }
  }
}

/** Where a row is put: the same place for every line, since millions of them come by. */
export interface RowPlace {
  /** ms, as of a row; NaN where the file tells no time. */
  t: number
  doubt: LocalTime['doubt']
  /** NaN where there is no value. */
  readonly values: number[]
}
export const rowPlace = (): RowPlace => ({ t: NaN, doubt: null, values: [] })

/**
 * Reads the lines of a file one after the other by a mapping.
 * @param s - where the reading stands; changed as it goes
 * @returns what reads a line, which may be a part of a text: `row` once it is in its place, `none` for the head and for
 * empty lines, or why it is wrong
 */
export function rowsInto(
  m: LogMapping,
  s: ReadState,
): (
  text: string,
  line: number,
  from: number,
  to: number,
  into: RowPlace,
) => 'row' | 'none' | WrongRow['reason'] {
  const columns = valueColumns(m)
  const local = localClock(m.zone, s)
  const timeOf = timeReader(m, s, local)
  const times = m.columns.filter((c) => c.kind === 'time' || c.kind === 'date' || c.kind === 'clock').length
  const width = m.isDecimalDelimiter ? 2 * m.columns.length - times : m.columns.length
  const plain = plainRow(m)
  return (text, line, from, to, into) => {
    if (line <= m.headerLines) return 'none'
    const wall = plain ? plain(text, from, to, into.values) : NaN
    if (wall === wall) {
      const { utc, doubt } = local(wall)
      into.t = utc
      into.doubt = doubt
      return 'row'
    }
    const bare = text.slice(from, text.charCodeAt(to - 1) === CR ? to - 1 : to)
    if (bare.trim() === '') return 'none'
    const raw = fieldsOf(bare, m.delimiter)
    if (raw.length !== width) return 'FIELDS'
    const fields = m.isDecimalDelimiter ? joinedPairs(raw, times) : raw
    const time = timeOf(fields)
    if (time === null) return 'TIME'
    for (const [place, i] of columns.entries()) {
      const field = fields[i] ?? ''
      const value = isEmptyField(field) ? null : numberBy(field, m.decimal)
      if (value === null && !isEmptyField(field)) return 'NUMBER'
      into.values[place] = value ?? NaN
    }
    into.t = time.t ?? NaN
    into.doubt = time.doubt
    return 'row'
  }
}

/** The same, with each row as one of its own: for a preview and for few rows. */
export function rowReader(
  m: LogMapping,
  s: ReadState = freshState(),
): (text: string, line: number, from?: number, to?: number) => RowRead {
  const read = rowsInto(m, s)
  const orNull = (x: number) => (Number.isNaN(x) ? null : x)
  return (text, line, from = 0, to = text.length) => {
    const into = rowPlace()
    const told = read(text, line, from, to, into)
    if (told === 'none') return null
    return told === 'row'
      ? { kind: 'row', t: orNull(into.t), values: into.values.map(orNull), doubt: into.doubt }
      : { kind: 'wrong', reason: told }
  }
}
