import { fitLine } from '../numeric/fit-line.ts'
import { originOf, pvOf, type Transmitter, type TransmitterState } from '../transmitter/transmitter.ts'

/** Lower sensor trim: the reading becomes what is applied; a shift, the slope stays. @param raw - the sensor's raw value now */
export const lowerTrimmed = (t: Transmitter, raw: number, applied: number): Partial<TransmitterState> => ({
  b: t.state.b + applied - pvOf(t, raw),
  sLo: raw,
})
/** Upper sensor trim: a turn about the lower point. */
export function upperTrimmed(t: Transmitter, raw: number, applied: number): Partial<TransmitterState> {
  const { a, b, sLo } = t.state
  const yLo = a * sLo + b
  const slope = (applied - yLo) / (raw - sLo)
  return { a: slope, b: yLo - slope * sLo }
}
/**
 * Trim by what it read at known inputs: one point is a shift, more are a line by least squares.
 * @param points - applied input, and the reading there before this trim
 */
export function pointsTrimmed(
  t: Transmitter,
  points: readonly { readonly applied: number; readonly pv: number }[],
): Partial<TransmitterState> {
  const { a, b } = t.state
  const [first] = points
  if (!first) return {}
  const line = points.length > 1 ? fitLine(points.map((p) => [p.pv, p.applied] as const)) : null
  return line ? { a: a * line.slope, b: line.at(0) + line.slope * b } : { b: b + first.applied - first.pv }
}
/** The sensor as the factory trimmed it. */
export const factorySensorTrim = (t: Transmitter): Partial<TransmitterState> => ({
  a: 1,
  b: 0,
  sLo: originOf(t.make),
})
