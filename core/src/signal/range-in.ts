import { convertRangeEnd } from '../quantity/units.ts'
import type { Range } from './stage.ts'

/** A range in another unit; null where the two measure different things. */
export function rangeIn(range: Range, unit: string): Range | null {
  const low = convertRangeEnd(range.low, range.unit, unit)
  const high = convertRangeEnd(range.high, range.unit, unit)
  return low.kind === 'value' && high.kind === 'value' ? { low: low.value, high: high.value, unit } : null
}
/** The first of several ranges that can be told in a unit. */
export const firstIn = (ranges: readonly (Range | null)[], unit: string): Range | null =>
  ranges.reduce<Range | null>((found, r) => found ?? (r && rangeIn(r, unit)), null)
