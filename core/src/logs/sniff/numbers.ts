const EMPTY = new Set(['', '-', '--', '---', '----', 'nan', 'n/a', 'na', 'null', 'none', '#n/a'])

/** Whether a field says that there is no value. */
export const isEmptyField = (field: string): boolean => {
  const first = field.charCodeAt(0)
  // Mostly it begins with a digit: millions of fields come by here.
  return !(first >= 48 && first <= 57) && EMPTY.has(field.toLowerCase())
}

const NUMBER = /^[+\-−]?(?:\d[\d.,'’   ]*|[.,]\d+)(?:e[+-]?\d+)?$/i
export const isNumberField = (field: string): boolean => NUMBER.test(field) && !/[.,'’  ]{2}/.test(field)

export type Sign = '.' | ','
const other = (s: Sign): Sign => (s === '.' ? ',' : '.')

/** What one number says of the two signs: which is its decimal sign, which groups; or that it could be either. */
interface Saying {
  readonly decimal?: Sign
  readonly groups?: Sign
  readonly undecided?: Sign
}

function sayingOf(field: string): Saying {
  const digits = field.replace(/e[+-]?\d+$/i, '').replace(/[+\-−'’   ]/g, '')
  const signs = (digits.match(/[.,]/g) ?? []) as Sign[]
  const [first] = signs
  const last = signs.at(-1)
  if (first === undefined || last === undefined) return {}
  if (first !== last) return { decimal: last, groups: other(last) }
  if (signs.length > 1) return { groups: first }
  const [before = '', behind = ''] = digits.split(first)
  return behind.length === 3 && before.length >= 1 && before.length <= 3 && before !== '0'
    ? { undecided: first }
    : { decimal: first }
}

export interface SignVote {
  readonly decimal: Sign
  /** The sign that groups thousands, where one was seen. */
  readonly thousands: Sign | null
  readonly finding: 'MIXED_DECIMAL' | 'UNDECIDED_DECIMAL' | null
  /** Place of the first field that speaks for the finding; −1 without one. */
  readonly at: number
}

/** All numbers of a file vote together on what a point and a comma mean. */
export function voteOn(fields: readonly string[]): SignVote {
  const sayings = fields.map(sayingOf)
  const decided = (s: Sign) => sayings.findIndex((x) => x.decimal === s)
  const [point, comma] = [decided('.'), decided(',')]
  if (point >= 0 && comma >= 0) return { decimal: '.', thousands: ',', finding: 'MIXED_DECIMAL', at: comma }
  const groups = sayings.find((x) => x.groups !== undefined)?.groups
  const undecided = sayings.findIndex((x) => x.undecided !== undefined)
  const open = sayings[undecided]?.undecided
  const decimal: Sign | undefined =
    point >= 0 ? '.' : comma >= 0 ? ',' : groups !== undefined ? other(groups) : undefined
  if (decimal !== undefined) {
    const grouped =
      groups ?? (sayings.some((x) => x.undecided === other(decimal)) ? other(decimal) : undefined)
    return { decimal, thousands: grouped ?? null, finding: null, at: -1 }
  }
  return open === undefined
    ? { decimal: '.', thousands: null, finding: null, at: -1 }
    : { decimal: open, thousands: null, finding: 'UNDECIDED_DECIMAL', at: undecided }
}

/** Digits that a double holds exactly, and powers of ten that it holds too: their quotient is rounded once. */
const MOST_DIGITS = 15
const TENS = Array.from({ length: MOST_DIGITS + 1 }, (_, k) => 10 ** k)

/**
 * Digits from a place to another one, with one decimal sign among them or none: the number that they are.
 * @returns NaN for anything else
 */
export function plainDigits(text: string, from: number, to: number, decimal: Sign): number {
  const isMinus = text.charCodeAt(from) === 45
  const begins = isMinus ? from + 1 : from
  const sign = decimal.charCodeAt(0)
  if (to - begins > MOST_DIGITS) return NaN
  let whole = 0
  let digits = 0
  let behind = -1
  for (let i = begins; i < to; i++) {
    const c = text.charCodeAt(i)
    if (c >= 48 && c <= 57) {
      whole = whole * 10 + (c - 48)
      digits++
    } else if (c === sign && behind < 0 && digits > 0) behind = digits
    else return NaN
  }
  if (digits === 0 || behind === digits) return NaN
  const value = behind < 0 ? whole : whole / (TENS[digits - behind] ?? NaN)
  return isMinus ? -value : value
}

/** A number by the signs that were voted; null where the field contradicts them or is none. */
export function numberBy(field: string, decimal: Sign): number | null {
  // The common case first: millions of fields come by here.
  const simple = plainDigits(field, 0, field.length, decimal)
  if (simple === simple) return simple
  const plain = decimal === '.' ? Number(field) : NaN
  if (plain === plain && field !== '' && !/[xob]/i.test(field)) return Number.isFinite(plain) ? plain : null
  if (!isNumberField(field)) return null
  const groups = other(decimal)
  const bare = field.replace(/['’   ]/g, '').replace('−', '-')
  const [whole = '', ...rest] = bare.split(decimal)
  if (rest.length > 1 || rest[0]?.includes(groups)) return null
  const parts = whole.replace(/^[+-]/, '').split(groups)
  if (
    parts.length > 1 &&
    (!parts.slice(1).every((p) => /^\d{3}$/.test(p)) || !/^\d{1,3}$/.test(parts[0] ?? ''))
  )
    return null
  const value = Number(`${whole.split(groups).join('')}${rest.length > 0 ? `.${rest[0] ?? ''}` : ''}`)
  return Number.isFinite(value) ? value : null
}
