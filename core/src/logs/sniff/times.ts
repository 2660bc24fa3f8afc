/** How a date's three numbers are ordered. */
export type DateOrder = 'YMD' | 'DMY' | 'MDY'
/** How a log writes its times. */
export const TIME_FORMATS = [
  'YMD',
  'DMY',
  'MDY',
  'ELAPSED',
  'EPOCH_MS',
  'EPOCH_S',
  'SERIAL_DAY',
  'RELATIVE',
  'NONE',
] as const
export type TimeFormat = (typeof TIME_FORMATS)[number]

const DATE = String.raw`(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})`
const CLOCK = String.raw`(\d{1,4}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?(?:\s*([AaPp])\.?[Mm]\.?)?`
const OFFSET = String.raw`\s*(Z|[+-]\d{2}:?\d{2})?`
const DATE_ONLY = new RegExp(`^${DATE}$`)
const CLOCK_ONLY = new RegExp(`^${CLOCK}${OFFSET}$`)
const BOTH = new RegExp(`^${DATE}(?:[T ]|,\\s)\\s*${CLOCK}${OFFSET}$`)

export const isDateField = (f: string): boolean => DATE_ONLY.test(f)
export const isClockField = (f: string): boolean => CLOCK_ONLY.test(f)
export const isTimeField = (f: string): boolean => BOTH.test(f)

/** The numbers of a date as they stand, and the sign between them. */
export interface DateParts {
  readonly first: number
  readonly second: number
  readonly third: number
  readonly sign: string
  readonly isYearFirst: boolean
}

export function datePartsOf(field: string): DateParts | null {
  const m = DATE_ONLY.exec(field) ?? BOTH.exec(field)
  if (!m) return null
  const [, a = '', sign = '', b = '', c = ''] = m
  return { first: Number(a), second: Number(b), third: Number(c), sign, isYearFirst: a.length > 2 }
}

const fullYear = (y: number) => (y < 100 ? 2000 + y : y)

/** Midnight of a date as if it were UTC, ms; null where there is no such day. */
function midnight(p: DateParts, order: DateOrder): number | null {
  const [y, m, d] =
    order === 'YMD'
      ? [p.first, p.second, p.third]
      : order === 'DMY'
        ? [p.third, p.second, p.first]
        : [p.third, p.first, p.second]
  const at = new Date(Date.UTC(fullYear(y), m - 1, d))
  return at.getUTCMonth() === m - 1 && at.getUTCDate() === d ? at.getTime() : null
}

/** A clock: ms since midnight, and the offset from UTC that stands beside it, ms. */
function clockOf(
  m: RegExpExecArray,
  from: number,
): { readonly ms: number; readonly offset: number | null } | null {
  const [h, min, s] = [Number(m[from]), Number(m[from + 1]), Number(m[from + 2] ?? 0)]
  const half = m[from + 4]?.toLowerCase()
  if (min > 59 || s > 60 || (half !== undefined && (h < 1 || h > 12))) return null
  const hours = half === undefined ? h : (h % 12) + (half === 'p' ? 12 : 0)
  const fraction = m[from + 3]
  const ms =
    ((hours * 60 + min) * 60 + s) * 1000 + (fraction === undefined ? 0 : Number(`0.${fraction}`) * 1000)
  const zone = m[from + 5]
  if (zone === undefined) return { ms, offset: null }
  if (zone === 'Z') return { ms, offset: 0 }
  const sign = zone.startsWith('-') ? -1 : 1
  const minutes = Number(zone.slice(1, 3)) * 60 + Number(zone.slice(-2))
  return { ms, offset: sign * minutes * 60_000 }
}

/** The day of the row before: rows of one day follow each other by the thousand. */
const lastDay = { text: '', order: '' as DateOrder | '', at: null as number | null }
function dayOf(m: RegExpExecArray, order: DateOrder): number | null {
  const [, a = '', sign = '', b = '', c = ''] = m
  const text = `${a}${sign}${b}${sign}${c}`
  if (lastDay.text === text && lastDay.order === order) return lastDay.at
  const at = midnight(
    { first: Number(a), second: Number(b), third: Number(c), sign, isYearFirst: a.length > 2 },
    order,
  )
  Object.assign(lastDay, { text, order, at })
  return at
}

/** Two digits of a text as a number; NaN where one is none. */
function twoDigitsAt(text: string, at: number): number {
  const [tens, ones] = [text.charCodeAt(at) - 48, text.charCodeAt(at + 1) - 48]
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : NaN
}
/** The same as of `lastDay`, told by numbers. */
const lastPlainDay = { number: NaN, at: NaN }
const [MINUS, COLON, BLANK, TEE] = [45, 58, 32, 84]
/** `2026-03-01 10:00:00` from a place to another one, as most files have it: wall time, ms; NaN for anything else. */
export function plainWall(text: string, from: number, to: number): number {
  const sign = text.charCodeAt(from + 10)
  if (to - from !== 19 || text.charCodeAt(from + 4) !== MINUS || text.charCodeAt(from + 7) !== MINUS)
    return NaN
  if (text.charCodeAt(from + 13) !== COLON || text.charCodeAt(from + 16) !== COLON) return NaN
  if (sign !== BLANK && sign !== TEE) return NaN
  const day =
    twoDigitsAt(text, from) * 1_000_000 +
    twoDigitsAt(text, from + 2) * 10_000 +
    twoDigitsAt(text, from + 5) * 100 +
    twoDigitsAt(text, from + 8)
  if (day !== lastPlainDay.number) {
    const [first, second, third] = [Math.floor(day / 10_000), Math.floor(day / 100) % 100, day % 100]
    lastPlainDay.at = midnight({ first, second, third, sign: '-', isYearFirst: true }, 'YMD') ?? NaN
    lastPlainDay.number = day
  }
  const h = twoDigitsAt(text, from + 11)
  const min = twoDigitsAt(text, from + 14)
  const s = twoDigitsAt(text, from + 17)
  return h < 24 && min < 60 && s < 60 ? lastPlainDay.at + ((h * 60 + min) * 60 + s) * 1000 : NaN
}

/** What a field with date and clock says: wall time as if it were UTC, ms, and its own offset. */
export function wallTime(
  field: string,
  order: DateOrder,
): { readonly wall: number; readonly offset: number | null } | null {
  const plain = order === 'YMD' ? plainWall(field, 0, field.length) : NaN
  if (plain === plain) return { wall: plain, offset: null }
  const both = BOTH.exec(field)
  const m = both ?? DATE_ONLY.exec(field)
  const day = m && dayOf(m, order)
  if (day === null) return null
  if (!both) return { wall: day, offset: null }
  const clock = clockOf(both, 5)
  return clock && clock.ms < 86_400_000 ? { wall: day + clock.ms, offset: clock.offset } : null
}

/** Milliseconds of a clock that may pass 24 hours; null where it is none. */
export function elapsedOf(field: string): number | null {
  const m = CLOCK_ONLY.exec(field)
  return m ? (clockOf(m, 1)?.ms ?? null) : null
}

/** The order of dates that a file tells by its numbers, its signs, or by times that rise. */
export function orderOf(fields: readonly string[]): {
  readonly order: DateOrder
  readonly isUndecided: boolean
} {
  const parts = fields.map(datePartsOf).filter((p): p is DateParts => p !== null)
  const told = (order: DateOrder, isUndecided = false) => ({ order, isUndecided })
  if (parts.length > 0 && parts.every((p) => p.isYearFirst)) return told('YMD')
  if (parts.some((p) => p.first > 12)) return told('DMY')
  if (parts.some((p) => p.second > 12)) return told('MDY')
  if (parts.some((p) => p.sign === '.')) return told('DMY')
  const [dmy, mdy] = (['DMY', 'MDY'] as const).map((order) => stepsIn(fields, order))
  if (!dmy || !mdy) return told('DMY')
  if (dmy.backward !== mdy.backward) return told(dmy.backward < mdy.backward ? 'DMY' : 'MDY')
  if (dmy.largest !== mdy.largest) return told(dmy.largest < mdy.largest ? 'DMY' : 'MDY')
  return told('DMY', true)
}

function stepsIn(fields: readonly string[], order: DateOrder) {
  let [backward, largest, before] = [0, 0, NaN]
  for (const f of fields) {
    const at = wallTime(f, order)?.wall
    if (at === undefined) continue
    if (at < before) backward++
    if (at - before > largest) largest = at - before
    before = at
  }
  return { backward, largest }
}
