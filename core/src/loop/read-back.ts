import type { SheetLine } from '../family/family.ts'
import { parseQuantity } from '../quantity/parse-quantity.ts'
import { parseNumber } from '../quantity/parse-number.ts'

/** Whether what a device shows is what the sheet says: the same, another value, or not to be compared. */
export type ReadBack = 'same' | 'differs'

const folded = (text: string) => text.toLowerCase().replace(/\s+/g, ' ').trim()
/** Digits behind the point, as it is written. */
const decimalsOf = (text: string): number => /[.,](\d+)/.exec(text)?.[1]?.length ?? 0

/** The same number with the same digits; a comma for the point, a zero in front and the unit left away are no difference. */
function sameDigits(value: string, read: string, unit: string): boolean {
  const digits = (text: string) =>
    folded(text)
      .replace(folded(unit), '')
      .trim()
      .replace(',', '.')
      .replace(/^0+(?=\d)/, '')
  return digits(value) === digits(read)
}

/** Half of the last digit that is shown is no difference, up to this share of the value. */
const SHOWN = 0.002
/** A value that was converted from another unit is as good as its digits, usually four. */
const CONVERTED = 0.001

/**
 * What was read back of a line against what it says. A number may be shown in another unit of the same kind, and with
 * fewer digits.
 */
export function compareReadBack(line: SheetLine, read: string): ReadBack {
  if (folded(line.value) === folded(read)) return 'same'
  const expected = parseNumber(line.value)
  if (expected.kind !== 'number') return 'differs'
  const unit = expected.rest.trim()
  if (line.exact) return sameDigits(line.value, read, unit) ? 'same' : 'differs'
  const told = parseQuantity(read, unit === '' ? null : unit)
  if (told.kind !== 'value') return 'differs'
  const size = Math.abs(expected.value)
  const half = (text: string) => Math.min(0.5 * 10 ** -decimalsOf(text), size * SHOWN)
  const allowed = Math.max(half(line.value), told.converted ? size * CONVERTED : half(read))
  return Math.abs(told.value - expected.value) <= allowed * (1 + 1e-9) ? 'same' : 'differs'
}
