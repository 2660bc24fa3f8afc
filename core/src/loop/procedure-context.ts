import type { ProcedureContext } from '../procedure/step.ts'
import { convertRangeEnd } from '../quantity/units.ts'
import { applyTransfer, LINEAR } from '../signal/transfer.ts'
import { stageOf } from '../signal/stage.ts'
import { shouldShow } from '../verify/should-show.ts'
import type { LoopDocument } from './document.ts'
import { factsOf, type FactsOf, type LoopFacts } from './facts.ts'

/** What is taken where the loop has no tolerance, % of span. */
const USUAL_TOLERANCE_PCT = 0.5
/** Held currents of a loop check stand at these shares of the span. */
const SHARES = [0, 0.25, 0.5, 0.75, 1] as const

/** What the receiver shows of a held current: its own scale behind the roots that are still to come. */
function receiverOf(
  document: FactsOf,
  facts: LoopFacts,
  tolerance_pct: number,
): ProcedureContext['receiver'] {
  const controller = stageOf(document.path, 'controller') ?? stageOf(document.path, 'display')
  const documented = facts.shows ?? facts.range
  if (!controller || !documented) return undefined
  const scale = shouldShow(documented, controller.range)
  const transfer = controller.transfer
  const shows = SHARES.map((u) => scale.low + (scale.high - scale.low) * applyTransfer(transfer, u))
  return {
    unit: scale.unit,
    shows,
    within: Math.max(1e-9, (tolerance_pct / 100) * Math.abs(scale.high - scale.low)),
  }
}

function zeroInputOf({ zeroInput: z, range }: LoopFacts): ProcedureContext['zeroInput'] {
  if (!z || !range) return undefined
  const value = z.input === null ? null : convertRangeEnd(z.input, z.unit, range.unit)
  return { value: value?.kind === 'value' ? value.value : null, says: z.says }
}

/** A loop that switches: what its input has to do, and nothing of a range. */
function discreteContext({ tag }: Pick<LoopDocument, 'tag'>, facts: LoopFacts): ProcedureContext {
  return {
    ...{ tag, discrete: true, kind: facts.pressureKind, manifold: null, tau_s: 0 },
    range: { low: 0, high: 1, unit: '1' },
    limits: { low: 0, high: 1 },
    tolerance_pct: USUAL_TOLERANCE_PCT,
    ...toldOf(facts),
  }
}

/** What is told of the set-up; a default is nobody's word. */
function toldOf({ setUpBegun, family, values, entries }: LoopFacts): Pick<ProcedureContext, 'told'> {
  const told = setUpBegun ? family?.told?.(values, (name) => entries[name] === 'typed') : undefined
  return told && Object.keys(told).length > 0 ? { told } : {}
}

/** What a procedure is made for, from a loop's facts; null for a loop that neither measures nor switches. */
export function contextOf(document: FactsOf & Pick<LoopDocument, 'tag'>): ProcedureContext | null {
  const facts = factsOf(document)
  const { range, limits, zeroLimits: zero, family, values } = facts
  if (!range || !limits) return facts.input ? discreteContext(document, facts) : null
  const allowed_pct = facts.allowed?.top_pct ?? 0
  const tolerance_pct = allowed_pct > 0 ? Math.min(50, allowed_pct) : USUAL_TOLERANCE_PCT
  const transfer = stageOf(document.path, 'transmitter')?.transfer ?? LINEAR
  const receiver = receiverOf(document, facts, tolerance_pct)
  // What a default made up is nobody's zero: legs and seals count once somebody has told of them.
  const zeroInput = facts.setUpBegun ? zeroInputOf(facts) : undefined
  const appliedBy = family?.appliedBy?.(values)
  return {
    tag: document.tag,
    range: { low: range.low, high: range.high, unit: range.unit },
    limits: { low: limits.low, high: limits.high },
    kind: facts.pressureKind,
    tolerance_pct,
    ...(allowed_pct > 0 ? {} : { toleranceAssumed: true as const }),
    tau_s: facts.damping_s,
    manifold: facts.manifold,
    ...(zero ? { zero } : {}),
    ...(document.trips.length > 0 ? { relays: document.trips } : {}),
    ...(transfer.kind === 'linear' ? {} : { transfer }),
    ...(appliedBy ? { appliedBy } : {}),
    ...(zeroInput ? { zeroInput } : {}),
    ...(receiver ? { receiver } : {}),
    ...toldOf(facts),
  }
}
