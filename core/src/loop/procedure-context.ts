import type { ProcedureContext } from '../procedure/step.ts'
import type { LoopDocument } from './document.ts'
import { factsOf, type FactsOf } from './facts.ts'

/** What is taken where the loop has no tolerance, % of span. */
const USUAL_TOLERANCE_PCT = 0.5

/** What a procedure is made for, from a loop's facts; null for a loop without a measuring range. */
export function contextOf(document: FactsOf & Pick<LoopDocument, 'tag'>): ProcedureContext | null {
  const facts = factsOf(document)
  const { range, limits, zeroLimits: zero } = facts
  if (!range || !limits) return null
  const allowed_pct = facts.allowed?.top_pct ?? 0
  return {
    tag: document.tag,
    range: { low: range.low, high: range.high, unit: range.unit },
    limits: { low: limits.low, high: limits.high },
    kind: facts.pressureKind,
    tolerance_pct: allowed_pct > 0 ? Math.min(50, allowed_pct) : USUAL_TOLERANCE_PCT,
    tau_s: facts.damping_s,
    manifold: facts.manifold,
    ...(zero ? { zero } : {}),
    ...(document.trips.length > 0 ? { relays: document.trips } : {}),
  }
}
