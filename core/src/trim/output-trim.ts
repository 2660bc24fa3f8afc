import { trueCurrent_mA, type Transmitter, type TransmitterState } from '../transmitter/transmitter.ts'

/** Output trim at 4 mA, by the current that was measured in the loop. */
export const outputTrimmed4 = (t: Transmitter, measured_mA: number): Partial<TransmitterState> => ({
  beta4: t.state.beta4 + 4 - measured_mA,
})
/** Output trim at 20 mA: the slope, after the 4 mA point. */
export const outputTrimmed20 = (t: Transmitter, measured_mA: number): Partial<TransmitterState> => ({
  alpha: (t.state.alpha * 16) / (measured_mA - trueCurrent_mA(t, 4)),
})
/** The output as the factory trimmed it. */
export const FACTORY_OUTPUT_TRIM: Partial<TransmitterState> = { alpha: 1, beta4: 4 }
