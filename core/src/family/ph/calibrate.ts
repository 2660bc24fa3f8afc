import { mean } from '../../numeric/mean.ts'
import { fitLine } from '../../numeric/fit-line.ts'
import { bufferPH, LEAST_APART_PH, type Buffer } from './buffers.ts'
import { electrodeState, nernst_mV, type Electrode, type ElectrodeState } from './electrode.ts'

/** A stable reading in a buffer, with its own temperature. */
export interface BufferPoint {
  readonly buffer: Buffer
  readonly mV: number
  readonly t_C: number
}
export interface PhCalibration {
  readonly electrode: Electrode
  readonly state: ElectrodeState
  /** Distance of each point from the line, mV. */
  readonly residuals_mV: readonly number[]
  readonly maxResidual_mV: number
  readonly warnings: readonly ('SUSPECT_BUFFER' | 'BUFFERS_TOO_CLOSE' | 'TEMPERATURES_APART')[]
}
const SUSPECT_MV = 3
const APART_C = 10

/**
 * Offset and slope from one to five buffers; one keeps the slope it is given.
 * @returns null where a temperature is outside the buffers' table or all points are the same buffer twice.
 */
export function calibratePh(points: readonly BufferPoint[], keepSlope_pct = 100): PhCalibration | null {
  const at = points.map((p) => {
    const pH = bufferPH(p.buffer, p.t_C)
    return pH === null ? null : { x: nernst_mV(p.t_C) * (pH - 7), E: p.mV, pH, t: p.t_C }
  })
  if (at.some((p) => p === null)) return null
  const xs = at.flatMap((p) => (p ? [p] : []))
  const [first] = xs
  if (!first) return null
  let slope = keepSlope_pct / 100
  let offset = first.E + slope * first.x
  if (xs.length > 1) {
    const line = fitLine(xs.map((p) => [p.x, p.E]))
    if (!line || line.sxx <= 1) return null
    slope = -line.slope
    offset = line.at(0)
  }
  const residuals_mV = xs.map((p) => p.E - offset + slope * p.x)
  const maxResidual_mV = Math.max(...residuals_mV.map(Math.abs))
  const sorted = xs.map((p) => p.pH).sort((a, b) => a - b)
  const warnings: PhCalibration['warnings'][number][] = []
  if (xs.length >= 3 && maxResidual_mV > SUSPECT_MV) warnings.push('SUSPECT_BUFFER')
  if (sorted.some((p, i) => i > 0 && p - (sorted[i - 1] ?? 0) < LEAST_APART_PH))
    warnings.push('BUFFERS_TOO_CLOSE')
  if (Math.max(...xs.map((p) => p.t)) - Math.min(...xs.map((p) => p.t)) > APART_C)
    warnings.push('TEMPERATURES_APART')
  const electrode = { offset_mV: offset, slope_pct: slope * 100 }
  return { electrode, state: electrodeState(electrode), residuals_mV, maxResidual_mV, warnings }
}

/** pH between neighbouring points instead of along one line, for wide ranges; three points or more. */
export function piecewisePH(points: readonly BufferPoint[], mV: number, t_C: number): number | null {
  const rows = points
    .flatMap((p) => {
      const pH = bufferPH(p.buffer, p.t_C)
      return pH === null ? [] : [{ y: p.mV / nernst_mV(p.t_C), pH }]
    })
    .sort((a, b) => a.y - b.y)
  if (rows.length < 2) return null
  const y = mV / nernst_mV(t_C)
  const i = Math.max(0, Math.min(rows.length - 2, rows.findIndex((r) => r.y > y) - 1))
  const last = rows[rows.length - 1]
  const k = last && y >= last.y ? rows.length - 2 : i
  const [a, b] = [rows[k], rows[k + 1]]
  return a && b ? a.pH + ((b.pH - a.pH) * (y - a.y)) / (b.y - a.y) : null
}

export interface PhSample {
  readonly t_s: number
  readonly mV: number
  readonly t_C: number
}
export interface PhStabilityRule {
  readonly window_s: number
  readonly slope_mV_s: number
  readonly slope_C_s: number
  readonly peakToPeak_mV: number
  readonly least_s: number
  readonly most_s: number
}
/** Typical; can be changed. */
export const PH_STABILITY: PhStabilityRule = {
  window_s: 15,
  slope_mV_s: 0.02,
  slope_C_s: 0.01,
  peakToPeak_mV: 1,
  least_s: 30,
  most_s: 300,
}
export interface PhStability {
  readonly state: 'STABLE' | 'TIMEOUT' | 'NOT_YET'
  /** Time of the sample that decided. */
  readonly at_s: number | null
  readonly mean_mV: number | null
  readonly slope_mV_s: number | null
  readonly slope_C_s: number | null
}

/** The first sample at which a reading in a buffer stands still, or that it never did. */
export function phStability(samples: readonly PhSample[], rule: PhStabilityRule = PH_STABILITY): PhStability {
  const begun = samples[0]?.t_s ?? 0
  for (const now of samples) {
    const elapsed = now.t_s - begun
    if (elapsed > rule.most_s)
      return { state: 'TIMEOUT', at_s: now.t_s, mean_mV: null, slope_mV_s: null, slope_C_s: null }
    if (elapsed < Math.max(rule.least_s, rule.window_s)) continue
    const window = samples.filter((s) => s.t_s >= now.t_s - rule.window_s && s.t_s <= now.t_s)
    if (window.length < 5) continue
    const mV = window.map((s) => s.mV)
    const slope_mV_s = fitLine(window.map((s) => [s.t_s, s.mV]))?.slope ?? 0
    const slope_C_s = fitLine(window.map((s) => [s.t_s, s.t_C]))?.slope ?? 0
    if (
      Math.abs(slope_mV_s) <= rule.slope_mV_s &&
      Math.abs(slope_C_s) <= rule.slope_C_s &&
      Math.max(...mV) - Math.min(...mV) <= rule.peakToPeak_mV
    )
      return {
        state: 'STABLE',
        at_s: now.t_s,
        mean_mV: mean(mV),
        slope_mV_s,
        slope_C_s,
      }
  }
  return { state: 'NOT_YET', at_s: null, mean_mV: null, slope_mV_s: null, slope_C_s: null }
}
