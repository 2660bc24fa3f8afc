import { refused, type Refused } from '../refused.ts'
export type ParsedNumber =
  | { readonly kind: 'number'; readonly value: number; readonly rest: string; readonly doubt?: string }
  | { readonly kind: 'empty' }
  | Refused

/** Larger than any quantity in the trade; keeps 1e400 and slipped keys out. */
const LARGEST = 1e15

/**
 * Reads a number as technicians type it, with a decimal point or a decimal comma.
 *
 * A single comma or point is always the decimal sign: "1,234" is 1.234, never 1234, and the doubt is
 * told. Both signs together: the later one is the decimal sign ("1.234,5" and "1,234.5" are 1234.5).
 * Spaces and apostrophes group thousands. What follows the number comes back as `rest` (a unit).
 */
export function parseNumber(text: string): ParsedNumber {
  const t = text
    .replace(/[\u00a0\u202f\u2009]/g, ' ')
    .trim()
    .replace(/^[−–]/, '-')
  if (t === '') return { kind: 'empty' }
  const m = /^([+-]?)([\d.,' ]*\d[.,]?|[.,]\d+)(e[+-]?\d+)?(?![\d.,])\s*(.*)$/i.exec(t)
  if (!m)
    return refused(`“${text.trim()}” is not a number. Type digits, with a comma or a point for decimals.`)
  const [, sign = '', body = '', exponent = '', rest = ''] = m
  if (/^\d+ \d+$/.test(body) && !/^\d{1,3} \d{3}$/.test(body))
    return refused(`“${text.trim()}” looks like two numbers. Type one.`)
  let digits = body.replace(/[' ]/g, '')
  const commas = digits.split(',').length - 1
  const points = digits.split('.').length - 1
  let doubt: string | undefined
  if (commas > 0 && points > 0) {
    const decimal = digits.lastIndexOf(',') > digits.lastIndexOf('.') ? ',' : '.'
    const group = decimal === ',' ? '.' : ','
    if (digits.split(decimal).length > 2 || !groupsOfThree(digits.split(decimal)[0] ?? '', group))
      return refused(`“${text.trim()}” mixes points and commas. Type the number with one decimal sign.`)
    digits = digits.split(group).join('').replace(decimal, '.')
  } else if (commas > 1 || points > 1) {
    const group = commas > 1 ? ',' : '.'
    if (!groupsOfThree(digits, group))
      return refused(`“${text.trim()}” has more than one decimal sign. Type the number with one.`)
    digits = digits.split(group).join('')
  } else {
    if (/^[1-9]\d{0,2}[.,]\d{3}$/.test(digits))
      doubt = 'the sign was taken as a decimal sign, not as thousands'
    digits = digits.replace(',', '.')
  }
  const value = Number(sign + digits + exponent)
  if (!Number.isFinite(value) || Math.abs(value) > LARGEST)
    return refused(`“${text.trim()}” is too large. The largest number that can be typed here is 1e15.`)
  return { kind: 'number', value, rest: rest.trim(), ...(doubt === undefined ? {} : { doubt }) }
}

function groupsOfThree(digits: string, group: string): boolean {
  const parts = digits.split(group)
  return /^\d{1,3}$/.test(parts[0] ?? '') && parts.slice(1).every((p) => /^\d{3}$/.test(p))
}
