import type { LoopDocument } from '../loop/document.ts'
import { stageOf } from '../signal/stage.ts'
import { toleranceAt } from '../verify/tolerance.ts'
import type { ProcedureContext } from './step.ts'

/** What is taken where the loop has no tolerance, % of span, and no damping, s. */
const USUAL_TOLERANCE_PCT = 0.5
const USUAL_TAU_S = 1

const kindOf = (type: string): ProcedureContext['kind'] =>
  /differential/i.test(type) ? 'differential' : /absolute/i.test(type) ? 'absolute' : 'gauge'

/** Limits of a sensor that nobody entered any for: the range and as much again on both sides. */
function sensorLimits(document: LoopDocument): { readonly low: number; readonly high: number } | null {
  const transmitter = stageOf(document.path, 'transmitter')
  if (!transmitter) return null
  const { low, high } = transmitter.range
  const span = Math.abs(high - low)
  return (
    stageOf(document.path, 'sensor')?.limits ?? {
      low: Math.min(low, high) - span,
      high: Math.max(low, high) + span,
    }
  )
}

/** What a procedure is made for, from a loop's document; null for a loop without a measuring range. */
export function contextOf(document: LoopDocument): ProcedureContext | null {
  const transmitter = stageOf(document.path, 'transmitter')
  const limits = sensorLimits(document)
  if (!transmitter || !limits) return null
  const { low, high, unit } = transmitter.range
  const span = Math.abs(high - low)
  const allowed = document.tolerance ? toleranceAt(document.tolerance, span, high) : 0
  const values = document.setUp?.values ?? {}
  const { manifold, damping_s } = values
  return {
    tag: document.tag,
    range: { low, high, unit },
    limits: { low: limits.low, high: limits.high },
    kind: kindOf(document.type),
    tolerance_pct: allowed > 0 ? Math.min(50, (100 * allowed) / span) : USUAL_TOLERANCE_PCT,
    tau_s: typeof damping_s === 'number' ? damping_s : USUAL_TAU_S,
    manifold: manifold === 'three-valve' || manifold === 'five-valve' ? manifold : null,
  }
}
