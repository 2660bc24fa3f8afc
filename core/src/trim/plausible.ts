import { originOf, pvOf, type Transmitter } from '../transmitter/transmitter.ts'
import type { Adjustment } from './adjust.ts'

export const REFUSALS = {
  LOOP_IN_AUTO:
    'The loop is in automatic: the controller would answer to every reading. Put it in manual first.',
  NO_AS_FOUND: 'As-found is not recorded and closed: the drift since the last time would be lost.',
  UNSTABLE: 'The reading does not stand still yet.',
  ABS_ZERO: 'An absolute transmitter is never zeroed in open air: its zero would be off by the barometer.',
  OUT_OF_LIMITS: 'The value is outside what the sensor measures.',
  FAR_FROM_PV:
    'The value is more than 10 % of the sensor’s range from what it reads: a wrong unit, a decimal, or the wrong input?',
  SHIFT_TOO_LARGE:
    'The shift would be more than 5 % of the sensor’s range: look for the cause instead of trimming it away.',
  SPAN_TOO_SMALL:
    'The two points are too close: an error of reading would turn the whole slope. Apply at least half the range.',
  SLOPE_TOO_LARGE:
    'The slope would change by more than 5 %: a wrong standard, a wrong unit, or a damaged sensor.',
  MA_IMPLAUSIBLE:
    'That current is too far from what was asked for: is the meter in the loop, on DC mA, and the output fixed?',
} as const
export type Refusal = keyof typeof REFUSALS

export const WARNINGS = {
  SHIFT_LARGE: 'The shift is more than 2 % of the sensor’s range: worth a look at the cause.',
  POINT_INSIDE: 'The trim points are well inside the range: the ends are extrapolated.',
  TURNDOWN: 'The span is less than a tenth of the sensor’s range.',
  OUTPUT_FAR: 'The current is more than 0.1 mA off.',
  COPIED: 'The applied value equals the reading to the last digit: was it measured, or copied?',
} as const
export type Warning = keyof typeof WARNINGS

export interface TrimSituation {
  readonly inManual: boolean
  readonly asFoundClosed: boolean
  readonly stable: boolean
}
export interface TrimVerdict {
  /** OK, or the first rule that is broken. */
  readonly code: 'OK' | Refusal
  readonly warnings: readonly Warning[]
}

const needsInput = (a: Adjustment) =>
  a.kind === 'zeroTrim' || a.kind === 'lowerTrim' || a.kind === 'upperTrim'
/** Trims and re-ranges need the loop in manual and as-found closed; a loop test does not. */
const needsPreparation = (a: Adjustment) => a.kind !== 'fixCurrent'

/** Whether an adjustment makes sense now: the first broken rule, in a fixed order. @param raw - the sensor's raw value now */
export function trimPlausible(t: Transmitter, a: Adjustment, raw: number, s: TrimSituation): TrimVerdict {
  const { LSL, USL, kind, minSpan } = t.make
  const { LRV, URV, sLo } = t.state
  const width = USL - LSL
  const PV = pvOf(t, raw)
  const warnings: Warning[] = []
  const refuse = (code: Refusal): TrimVerdict => ({ code, warnings })
  if (needsPreparation(a)) {
    if (!s.inManual) return refuse('LOOP_IN_AUTO')
    if (!s.asFoundClosed) return refuse('NO_AS_FOUND')
  }
  if (needsInput(a) && !s.stable) return refuse('UNSTABLE')
  if (a.kind === 'zeroTrim' && kind === 'absolute') return refuse('ABS_ZERO')
  const values =
    a.kind === 'lowerTrim' || a.kind === 'upperTrim' ? [a.applied] : a.kind === 'range' ? [a.LRV, a.URV] : []
  if (values.some((v) => v < LSL || v > USL)) return refuse('OUT_OF_LIMITS')
  const applied =
    a.kind === 'zeroTrim' ? 0 : a.kind === 'lowerTrim' || a.kind === 'upperTrim' ? a.applied : null
  if (applied !== null) {
    if (Math.abs(applied - PV) > 0.1 * width) return refuse('FAR_FROM_PV')
    if (a.kind !== 'zeroTrim' && applied === PV) warnings.push('COPIED')
  }
  if (a.kind === 'zeroTrim' || a.kind === 'lowerTrim') {
    const s0 = originOf(t.make)
    const b = t.state.b + (applied ?? 0) - PV
    const shift = Math.abs(t.state.a * s0 + b - s0)
    if (shift > 0.05 * width) return refuse('SHIFT_TOO_LARGE')
    if (shift > 0.02 * width) warnings.push('SHIFT_LARGE')
    if (a.kind === 'lowerTrim' && a.applied > LRV + 0.1 * Math.abs(URV - LRV)) warnings.push('POINT_INSIDE')
  }
  if (a.kind === 'points') {
    if (a.points.length === 0) return refuse('UNSTABLE')
    if (a.points.some((p) => Math.abs(p.applied - p.pv) > 0.1 * width)) return refuse('FAR_FROM_PV')
  }
  if (a.kind === 'upperTrim') {
    const yLo = t.state.a * sLo + t.state.b
    if (Math.abs(a.applied - yLo) < Math.max(minSpan, 0.5 * Math.abs(URV - LRV)))
      return refuse('SPAN_TOO_SMALL')
    const slope = (a.applied - yLo) / (raw - sLo)
    if (!(Math.abs(slope - 1) <= 0.05)) return refuse('SLOPE_TOO_LARGE')
    if (a.applied < URV - 0.1 * Math.abs(URV - LRV)) warnings.push('POINT_INSIDE')
  }
  if (a.kind === 'range') {
    if (Math.abs(a.URV - a.LRV) < minSpan) return refuse('SPAN_TOO_SMALL')
    if (width / Math.abs(a.URV - a.LRV) > 10) warnings.push('TURNDOWN')
  }
  if (a.kind === 'outputTrim4' || a.kind === 'outputTrim20') {
    const off = Math.abs(a.measured_mA - (a.kind === 'outputTrim4' ? 4 : 20))
    if (off > (a.kind === 'outputTrim4' ? 0.5 : 1)) return refuse('MA_IMPLAUSIBLE')
    if (off > 0.1) warnings.push('OUTPUT_FAR')
  }
  return { code: 'OK', warnings }
}
