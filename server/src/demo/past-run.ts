import { currentOf } from '@calm/core/signal/current-range'
import { randomUUID } from 'node:crypto'
import type { NewEvent } from '@calm/contract/events'
import type { LoopDocument } from '@calm/core/loop/document'
import { roundHalfAway, sayNumber } from '@calm/core/quantity/round'
import type { Phase, Typed } from '@calm/core/record/kinds/reading-values'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { outputFraction } from '@calm/core/signal/path'
import { namedPlan, type PlanPoint } from '@calm/core/verify/plan'
import { appliedAt, loopScale } from '@calm/core/verify/reading-errors'
import type { DemoErrors, DemoVerification } from './demo-files.ts'

const typed = (value: number): Typed => ({ value, typed: sayNumber(value, 8) })

/** What a device with these errors showed at one point, rounded as instruments show it. */
function readingAt(doc: LoopDocument, point: PlanPoint, e: DemoErrors): Record<string, Typed> {
  const scale = loopScale(doc.path)
  if (!scale) return {}
  const { input, output } = scale
  const digits = Math.max(0, 4 - Math.ceil(Math.log10(Math.abs(input.high - input.low))))
  const outDigits = Math.max(0, 4 - Math.ceil(Math.log10(Math.abs(output.high - output.low))))
  const applied = appliedAt(scale, point.level_pct)
  const u = (applied - input.low) / (input.high - input.low)
  const bow = 4 * u * (1 - u)
  const direction = point.direction === 'up' ? -0.5 : 0.5
  const error = e.zero_pct + e.span_pct * u + (e.bow_pct + direction * e.hysteresis_pct) * bow
  const pv = applied + ((input.high - input.low) * error) / 100
  const transmitter = doc.path.filter((s) => s.kind === 'transmitter')
  const controller = doc.path.some((s) => s.kind === 'controller')
  const phi = outputFraction(transmitter, u + error / 100) + e.output_pct / 100
  const values: Record<string, Typed> = {
    applied: typed(roundHalfAway(applied, digits)),
    pv: typed(roundHalfAway(pv, digits)),
    loopCurrent_mA: typed(roundHalfAway(currentOf(phi), 3)),
  }
  if (controller)
    values['controller'] = typed(roundHalfAway(output.low + phi * (output.high - output.low), outDigits))
  return values
}

/** The events of a past verification, with the author of each. */
export function pastRun(
  doc: LoopDocument,
  past: DemoVerification,
  equipment: readonly string[],
): { event: NewEvent; by: string }[] {
  const scale = loopScale(doc.path)
  if (!scale || !doc.tolerance) return []
  const runId = randomUUID()
  let clock = Date.parse(past.at)
  const out: { event: NewEvent; by: string }[] = []
  const happen = (body: RunEventBody, by = past.by, minutes = 2) => {
    out.push({ event: { id: randomUUID(), runId, at: new Date(clock).toISOString(), body }, by })
    clock += minutes * 60_000
  }
  happen({
    type: 'run.started',
    payload: {
      plan: past.plan,
      revision: 1,
      tolerance: doc.tolerance,
      inputRange: scale.input,
      outputRange: scale.output,
      equipment: [...equipment],
      U_pct: 0,
    },
  })
  const phase = (name: Phase, errors: DemoErrors) => {
    for (const p of namedPlan(past.plan))
      happen({
        type: 'reading.recorded',
        payload: { phase: name, index: p.index, values: readingAt(doc, p, errors) },
      })
    happen({ type: 'phase.closed', payload: { phase: name } })
  }
  phase('asFound', past.asFound)
  if (past.adjusted !== null && past.asLeft) {
    happen({ type: 'adjusted', payload: { note: past.adjusted } }, past.by, 20)
    phase('asLeft', past.asLeft)
  } else happen({ type: 'left.asFound', payload: {} })
  happen({ type: 'signed', payload: { as: 'technician', statement: 'Done as recorded.' } }, past.by, 180)
  happen({ type: 'signed', payload: { as: 'reviewer', statement: 'Checked.' } }, past.reviewer)
  return out
}
