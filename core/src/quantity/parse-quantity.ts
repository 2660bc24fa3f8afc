import { refused, type Refused } from '../refused.ts'
import { parseNumber } from './parse-number.ts'
import { convertRangeEnd, findUnit, printedUnit } from './units.ts'

export type ParsedQuantity =
  | {
      readonly kind: 'value'
      readonly value: number
      /** True when another unit was typed and the value was converted. */
      readonly converted: boolean
      readonly doubt?: string
    }
  | { readonly kind: 'empty' }
  | Refused

/**
 * Reads a number for a place that has a unit. Another unit of the same kind may stand behind the number
 * and is converted; a plain pressure unit is read as gauge or absolute, as the place has it.
 * @param unit - the place's unit; null for a bare number, which takes no unit at all.
 */
export function parseQuantity(text: string, unit: string | null): ParsedQuantity {
  const parsed = parseNumber(text)
  if (parsed.kind !== 'number') return parsed
  const { value, rest, doubt } = parsed
  if (rest === '')
    return { kind: 'value', value, converted: false, ...(doubt === undefined ? {} : { doubt }) }
  if (unit === null) return refused(`“${rest}” does not belong to this number.`)
  const other = findUnit(rest)
  const converted = other ? convertRangeEnd(value, other.symbol, unit) : null
  if (!other || converted?.kind !== 'value') {
    const own = printedUnit(unit)
    return refused(`“${rest}” cannot be turned into ${own}. Type the number in ${own}.`)
  }
  return { kind: 'value', value: converted.value, converted: other.symbol !== unit }
}
