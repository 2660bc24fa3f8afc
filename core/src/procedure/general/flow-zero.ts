import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { adjusted, decision, write } from '../parts.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure } from '../step.ts'
import { beginningClosed, endingClosed, HOT, OPEN_FLOW, residual, STOP_FLOW } from './common.ts'

/**
 * A zero is worth setting only where the residual is larger than its noise and than what the meter's own
 * zero is good for; above the limit of a zero the line is not stopped or not full.
 */
export function flowAdvice(run: ProcedureRun): Advice {
  const found = valuesOfStep(run, 'asFound-1-read')
  const [residual, noise] = [Math.abs(found['pv'] ?? 0), Math.abs(found['noise'] ?? 0)]
  const { range, zero } = run.started.context
  const say = (x: number, digits: number) => `${sayNumber(x, digits)} ${printedUnit(range.unit)}`
  const told = `Residual ${say(residual, 4)}, noise ±${say(noise, 3)}.`
  if (zero?.most != null && residual > zero.most)
    return {
      choice: 'leave',
      says: [
        told,
        `Above ${say(zero.most, 3)} it is not a zero: the flow has not stopped or the pipe is not full. Do not set a zero here.`,
      ],
    }
  if (residual <= noise)
    return {
      choice: 'leave',
      says: [told, 'It is lost in its noise: a new zero would only be another one. Leave it alone.'],
    }
  if (zero && residual <= zero.least)
    return {
      choice: 'leave',
      says: [told, `It is within ${say(zero.least, 3)}, as good as a zero of this meter is. Leave it alone.`],
    }
  return { choice: 'adjust', says: [told, 'It is larger than its noise: setting the zero is worth it.'] }
}

export const FLOW_ZERO: Procedure = {
  id: 'flow-zero',
  title: 'Flow zero',
  purpose:
    'Zero only with the flow stopped, the pipe full and the reading steady, and only if the residual is larger than its noise.',
  minutes: 25,
  tools: ['both valves tight', 'five minutes of patience'],
  permissions: ['flow stopped by the operators', 'loop in manual'],
  cautions: HOT,
  advise: flowAdvice,
  steps: (c) => [
    ...beginningClosed(c, HOT),
    STOP_FLOW,
    residual(c),
    decision('Set the zero, or leave it'),
    write(
      'zero',
      'Set the flow zero',
      'With the flow stopped, the pipe full and the reading still.',
      'zeroTrim',
      { apply: 0 },
    ),
    adjusted,
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Read again',
      says: 'The new residual, before the valves are opened.',
      apply: 0,
      fields: [{ name: 'pv', label: 'Residual flow', unit: c.range.unit, readsFrom: 'pv' }],
    },
    OPEN_FLOW,
    ...endingClosed(c),
  ],
}
