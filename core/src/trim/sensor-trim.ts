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
/** The sensor as the factory trimmed it. */
export const factorySensorTrim = (t: Transmitter): Partial<TransmitterState> => ({
  a: 1,
  b: 0,
  sLo: originOf(t.make),
})
