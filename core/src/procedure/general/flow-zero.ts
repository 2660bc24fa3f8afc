import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { adjusted, callAndBypass, checkAndCall, decision, write } from '../parts.ts'
import { REST_FIELD } from '../rest-gate.ts'
import { wrote, type Outcome } from '../outcome.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, ProcedureContext, Step } from '../step.ts'
import { allowedOf } from '../allowed.ts'
import { flowAtRest, HOT, OPEN_FLOW, residual, residualAgain, ZERO_FLOW_GATES } from './common.ts'

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

/** Of a meter whose zero stability nobody told, a tenth of what the loop allows. */
const USUAL_SHARE = 0.1
/** More of what the loop allows no noise may excuse. */
const NOISE_SHARE = 0.5

/** The residual after the last write, against its noise and against what a zero of this meter is good for. */
export function judgeFlowZero(run: ProcedureRun): Outcome {
  const { range, zero } = run.started.context
  const adjusted = wrote(run)
  const { pv, noise = 0 } = valuesOfStep(run, adjusted ? 'asLeft-1-read' : 'asFound-1-read')
  if (pv === undefined)
    return adjusted
      ? { result: 'notVerified', says: ['Nobody has read the residual since the zero was set.'] }
      : { result: 'notDone', says: ['The residual was not read; the zero is as it was.'] }
  const say = (x: number, digits = 3) => `${sayNumber(x, digits)} ${printedUnit(range.unit)}`
  const least = zero?.least ?? USUAL_SHARE * allowedOf(run.started.context).pv
  // A noise as large as the tolerance hides a residual; it does not excuse one.
  const may = Math.max(Math.min(Math.abs(noise), NOISE_SHARE * allowedOf(run.started.context).pv), least)
  const { [REST_FIELD]: at_C } = valuesOfStep(run, 'atRest')
  const at = at_C === undefined ? '' : ` at ${sayNumber(at_C, 4)} °C`
  const told = `Residual ${say(pv, 4)} with the flow stopped${at}, noise ±${say(noise)}; a zero is good within ±${say(may)}.`
  return Math.abs(pv) <= may
    ? {
        result: adjusted ? 'adjusted' : 'untouched',
        says: [told, 'The zero only: the flow itself was not compared.'],
      }
    : { result: 'out', says: [told] }
}

/** Residual, decision, zero and residual again, between shut valves. */
export const flowZeroSteps = (c: ProcedureContext): Step[] => [
  ...flowAtRest(c),
  residual(c),
  decision('Set the zero, or leave it'),
  write(
    'zero',
    'Set the flow zero',
    'With the flow stopped, the pipe full and the reading still.',
    'zeroTrim',
    {
      apply: 0,
      steady: 'pv',
      gates: [...ZERO_FLOW_GATES, 'still'],
      fields: [
        { name: 'pv', label: 'Residual flow', unit: c.range.unit, readsFrom: 'pv' },
        { name: 'noise', label: 'Noise, ±', unit: c.range.unit, readsFrom: 'noise' },
      ],
    },
  ),
  adjusted,
  residualAgain(c),
  OPEN_FLOW,
]

export const FLOW_ZERO: Procedure = {
  id: 'flow-zero',
  judges: 'sensor',
  title: 'Flow zero',
  purpose:
    'Zero only with the flow stopped, the pipe full and the reading steady, and only if the residual is larger than its noise.',
  minutes: 25,
  tools: ['both valves tight', 'five minutes of patience'],
  permissions: ['flow stopped by the operators', 'loop in manual'],
  cautions: HOT,
  advise: flowAdvice,
  judge: judgeFlowZero,
  steps: (c) => [...callAndBypass(c, HOT), ...flowZeroSteps(c), ...checkAndCall(c)],
}
