import { convertRangeEnd } from '../quantity/units.ts'
import type { Range } from '../signal/stage.ts'

/**
 * What a receiver should show: the documented range in the receiver's own unit, whatever it is scaled to. A receiver
 * of another quantity (percent, tonnes for metres) is taken at its own scale.
 */
export function shouldShow(documented: Range, receiver: Range): Range {
  const low = convertRangeEnd(documented.low, documented.unit, receiver.unit)
  const high = convertRangeEnd(documented.high, documented.unit, receiver.unit)
  if (low.kind === 'refused' || high.kind === 'refused') return receiver
  // A conversion that lands within a rounding of the receiver's own numbers is the receiver's range.
  const near = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.abs(receiver.high - receiver.low)
  return near(low.value, receiver.low) && near(high.value, receiver.high)
    ? receiver
    : { low: low.value, high: high.value, unit: receiver.unit }
}
