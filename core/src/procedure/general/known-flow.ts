import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { ProcedureContext, Step } from '../step.ts'
import { allowedOf } from '../allowed.ts'

/** With the flow back: what the meter reads, what is known of the flow, and how well. */
export const flowing = (c: ProcedureContext): Step => ({
  id: 'flowing',
  kind: 'read',
  phase: 'asLeft',
  title: 'With the flow back: what it reads',
  says: 'Against a pump curve, a tank, another meter or what the operator knows, and how well that is known.',
  gates: ['still'],
  fields: [
    { name: 'pv', label: 'It reads', unit: c.range.unit, readsFrom: 'pv' },
    { name: 'known', label: 'What is known of the flow', unit: c.range.unit },
    { name: 'knownWithin', label: 'Known to ±', unit: c.range.unit },
  ],
})

/** Known so badly, share of span, a flow that agrees proves nothing. */
const TOO_VAGUE = 0.1

/** The reading against the known flow; null where nothing is known, or so vaguely that it proves nothing. */
export function flowKnown(run: ProcedureRun): { readonly good: boolean; readonly says: string } | null {
  const c = run.started.context
  const { pv, known, knownWithin = 0 } = valuesOfStep(run, 'flowing')
  if (pv === undefined || known === undefined) return null
  const may = allowedOf(c).pv + Math.abs(knownWithin)
  const u = printedUnit(c.range.unit)
  const good = Math.abs(pv - known) <= may
  if (good && Math.abs(knownWithin) > TOO_VAGUE * Math.abs(c.range.high - c.range.low)) return null
  return {
    good,
    says: `With the flow back it reads ${sayNumber(pv, 5)} ${u}; known is ${sayNumber(known, 5)} ±${sayNumber(knownWithin, 3)} ${u}, together with what is allowed ±${sayNumber(may, 3)}.`,
  }
}
