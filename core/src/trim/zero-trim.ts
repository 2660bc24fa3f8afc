import { pvOf, type Transmitter, type TransmitterState } from '../transmitter/transmitter.ts'

/** Zero trim: with no input applied the reading becomes 0; a shift, the slope stays. @param raw - the sensor's raw value now */
export const zeroTrimmed = (t: Transmitter, raw: number): Partial<TransmitterState> => ({
  b: t.state.b - pvOf(t, raw),
  sLo: raw,
})
