import { pvOf, type Transmitter, type TransmitterState } from '../transmitter/transmitter.ts'
import { FACTORY_OUTPUT_TRIM, outputTrimmed20, outputTrimmed4 } from './output-trim.ts'
import { factorySensorTrim, lowerTrimmed, pointsTrimmed, upperTrimmed } from './sensor-trim.ts'
import { zeroTrimmed } from './zero-trim.ts'

/** An adjustment as a technician asks for it; applied inputs and measured currents are what stands there now. */
export type Adjustment =
  | { readonly kind: 'zeroTrim' }
  | { readonly kind: 'lowerTrim'; readonly applied: number }
  | { readonly kind: 'upperTrim'; readonly applied: number }
  /** One point shifts; two or more give shift and slope by least squares. */
  | {
      readonly kind: 'points'
      readonly points: readonly { readonly applied: number; readonly pv: number }[]
    }
  | { readonly kind: 'range'; readonly LRV: number; readonly URV: number }
  | { readonly kind: 'rangeLowByInput' }
  | { readonly kind: 'rangeHighByInput' }
  | { readonly kind: 'outputTrim4'; readonly measured_mA: number }
  | { readonly kind: 'outputTrim20'; readonly measured_mA: number }
  | { readonly kind: 'fixCurrent'; readonly mA: number | null }
  | { readonly kind: 'restoreSensorTrim' }
  | { readonly kind: 'restoreOutputTrim' }

function changed(t: Transmitter, a: Adjustment, raw: number): Partial<TransmitterState> {
  switch (a.kind) {
    case 'zeroTrim':
      return zeroTrimmed(t, raw)
    case 'lowerTrim':
      return lowerTrimmed(t, raw, a.applied)
    case 'upperTrim':
      return upperTrimmed(t, raw, a.applied)
    case 'points':
      return pointsTrimmed(t, a.points)
    case 'range':
      return { LRV: a.LRV, URV: a.URV }
    case 'rangeLowByInput': {
      const PV = pvOf(t, raw)
      return { LRV: PV, URV: PV + (t.state.URV - t.state.LRV) }
    }
    case 'rangeHighByInput':
      return { URV: pvOf(t, raw) }
    case 'outputTrim4':
      return outputTrimmed4(t, a.measured_mA)
    case 'outputTrim20':
      return outputTrimmed20(t, a.measured_mA)
    case 'fixCurrent':
      return { fixed_mA: a.mA }
    case 'restoreSensorTrim':
      return factorySensorTrim(t)
    case 'restoreOutputTrim':
      return FACTORY_OUTPUT_TRIM
  }
}

/**
 * State after an adjustment that was allowed; whether it may be is `trimPlausible`'s to say.
 * @param raw - the sensor's raw value now.
 */
export const adjust = (t: Transmitter, a: Adjustment, raw: number): Transmitter => ({
  ...t,
  state: { ...t.state, ...changed(t, a, raw) },
})
