import { currentOf, heldToLimits, MEASURING_HIGH_MA, MEASURING_LOW_MA } from '../signal/current-range.ts'
import { LINEAR, applyTransfer, type Transfer } from '../signal/transfer.ts'

/** What a transmitter really does: its errors, in the unit of its sensor and in mA. Nobody sees these. */
export interface TransmitterErrors {
  /** Zero shift, and per °C from 20 °C. */
  readonly z: number
  readonly zT: number
  /** Span error as a fraction, and per °C. */
  readonly g: number
  readonly gT: number
  readonly bow: number
  readonly hys: number
  /** Output: zero in mA and span as a fraction. */
  readonly zo: number
  readonly go: number
}
export const NO_ERRORS: TransmitterErrors = { z: 0, zT: 0, g: 0, gT: 0, bow: 0, hys: 0, zo: 0, go: 0 }

/** What is built in and never changes. */
export interface TransmitterMake {
  readonly LSL: number
  readonly USL: number
  readonly kind: 'gauge' | 'absolute' | 'differential'
  readonly minSpan: number
  readonly satLo_mA: number
  readonly satHi_mA: number
  readonly transfer: Transfer
}

/** What trims and ranges change. */
export interface TransmitterState {
  readonly a: number
  readonly b: number
  /** Raw value of the last lower or zero trim. */
  readonly sLo: number
  readonly beta4: number
  readonly alpha: number
  readonly LRV: number
  readonly URV: number
  /** Held current of a loop test, mA; null when the output follows. */
  readonly fixed_mA: number | null
}

export interface Transmitter {
  readonly make: TransmitterMake
  readonly errors: TransmitterErrors
  readonly state: TransmitterState
}

/** Zero where the sensor can measure it, else its lower limit. */
export const originOf = (m: Pick<TransmitterMake, 'LSL' | 'USL'>): number =>
  m.LSL <= 0 && m.USL >= 0 ? 0 : m.LSL

export function factoryState(make: TransmitterMake, LRV: number, URV: number): TransmitterState {
  return { a: 1, b: 0, sLo: originOf(make), beta4: 4, alpha: 1, LRV, URV, fixed_mA: null }
}
export const transmitter = (
  make: Partial<TransmitterMake> & Pick<TransmitterMake, 'LSL' | 'USL'>,
  errors: Partial<TransmitterErrors>,
  LRV: number,
  URV: number,
): Transmitter => {
  const whole: TransmitterMake = {
    kind: 'gauge',
    minSpan: (make.USL - make.LSL) / 100,
    satLo_mA: MEASURING_LOW_MA,
    satHi_mA: MEASURING_HIGH_MA,
    transfer: LINEAR,
    ...make,
  }
  return { make: whole, errors: { ...NO_ERRORS, ...errors }, state: factoryState(whole, LRV, URV) }
}

/** What the sensor makes of a true input before any trim. @param dir - 1 rising, -1 falling, 0 unknown */
export function rawReading(t: Transmitter, x: number, dir: -1 | 0 | 1 = 0, temperature_C = 20): number {
  const { LSL, USL } = t.make
  const { z, zT, g, gT, bow, hys } = t.errors
  const v = (x - LSL) / (USL - LSL)
  const B = 4 * v * (1 - v)
  const dT = temperature_C - 20
  return x * (1 + g + gT * dT) + z + zT * dT + bow * B - ((dir * hys) / 2) * B
}
export const pvOf = (t: Transmitter, raw: number): number => t.state.a * raw + t.state.b

/** Ideal current of a digital reading, held to the measuring limits. */
export function idealCurrent_mA(t: Transmitter, pv: number): number {
  const { LRV, URV } = t.state
  const F = applyTransfer(t.make.transfer, (pv - LRV) / (URV - LRV))
  return heldToLimits(currentOf(F), t.make.satLo_mA, t.make.satHi_mA)
}
/** The current that really leaves for an ideal one. */
export const trueCurrent_mA = (t: Transmitter, ideal_mA: number): number =>
  (1 + t.errors.go) * (t.state.beta4 + t.state.alpha * (ideal_mA - 4)) + t.errors.zo

export interface TransmitterReading {
  readonly raw: number
  readonly PV: number
  readonly percent: number
  readonly ideal_mA: number
  readonly mA: number
}
/** Everything the transmitter shows for a true input. */
export function readTransmitter(
  t: Transmitter,
  x: number,
  dir: -1 | 0 | 1 = 0,
  temperature_C = 20,
): TransmitterReading {
  const raw = rawReading(t, x, dir, temperature_C)
  const PV = pvOf(t, raw)
  const { LRV, URV } = t.state
  const ideal_mA = t.state.fixed_mA ?? idealCurrent_mA(t, PV)
  return {
    raw,
    PV,
    percent: 100 * applyTransfer(t.make.transfer, (PV - LRV) / (URV - LRV)),
    ideal_mA,
    mA: trueCurrent_mA(t, ideal_mA),
  }
}
