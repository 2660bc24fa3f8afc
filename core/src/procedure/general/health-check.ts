import { wholeGates } from '../gate-numbers.ts'
import { wrote, type Outcome } from '../outcome.ts'
import { acceptOrReport, callAndBypass, checkAndCall } from '../parts.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { DeviceCommand } from '../../device/command.ts'
import type { Advice, Procedure, ProcedureContext, Step, StepAnswer } from '../step.ts'
import { sayNumber } from '../../quantity/round.ts'
import { ELECTRIC, flowAtRest, OPEN_FLOW, residual } from './common.ts'

function judgeHealth(run: ProcedureRun): Outcome {
  const { before, change_pct = 0, alerts = 0 } = valuesOfStep(run, 'result')
  if (before === undefined || wrote(run))
    return { result: 'notDone', says: ['The check was not done to its end.'] }
  const standing = alerts === 0 ? [] : [`${sayNumber(alerts)} alerts stand.`]
  if (before < 1)
    return alerts === 0
      ? {
          result: 'reference',
          says: ['The first check of this device: later ones are held against it.'],
        }
      : { result: 'look', says: ['No reference is taken while an alert stands.', ...standing] }
  // A change of so much since the first check is reported; the device's manual wins.
  const { health_pct } = wholeGates(run.started.gates)
  const told = `Largest change since the first check ${sayNumber(change_pct, 3)} %, up to ${sayNumber(health_pct)} % is allowed.`
  return alerts === 0 && Math.abs(change_pct) <= health_pct
    ? { result: 'untouched', says: [told, 'No alert stands.'] }
    : { result: 'look', says: [told, ...standing, 'Coating, erosion or wear: look before it is believed.'] }
}
const healthAdvice = (run: ProcedureRun): Advice => {
  const { result, says } = judgeHealth(run)
  return { choice: result === 'look' ? 'report' : 'accept', says }
}

const checkItself = ({ choice }: StepAnswer): DeviceCommand => ({
  kind: 'healthCheck',
  output: choice === 'alarm' ? 'alarm' : 'held',
})

/** At rest, and proved to be: what moves is taken for a change, and the first check is the measure of all others. */
const atRest = (c: ProcedureContext): Step[] =>
  c.appliedBy === 'flow'
    ? [...flowAtRest(c), residual(c)]
    : [
        {
          id: 'blockedIn',
          kind: 'valve',
          title: 'Input at rest',
          says: 'What moves is taken for a change.',
          hold: ['The input stands still.'],
        },
        {
          id: 'asFound-1-read',
          kind: 'read',
          phase: 'asFound',
          title: 'Read it at rest',
          says: 'The reading has to stand before the device looks at itself.',
          gates: ['still'],
          fields: [{ name: 'pv', label: 'It reads', unit: c.range.unit, readsFrom: 'pv' }],
        },
      ]

export const HEALTH_CHECK: Procedure = {
  id: 'health-check',
  judges: 'health',
  title: 'Health check of the device',
  purpose:
    'The device looks at itself with its input at rest. The first check is the reference; later ones tell what has changed since.',
  minutes: 20,
  tools: ['link to the device'],
  permissions: ['input at rest, blocked in', 'loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  advise: healthAdvice,
  judge: judgeHealth,
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    ...atRest(c),
    {
      id: 'output',
      kind: 'decide',
      title: 'What the output does meanwhile',
      says: 'It measures nothing for one to four minutes. Held, the controller sees nothing of that; at its alarm, everybody does. Chosen with operations.',
      choices: [
        { value: 'held', title: 'Held where it is' },
        { value: 'alarm', title: 'At its alarm current' },
      ],
      recommends: 'held',
      confirmedBy: 'operator',
      gates: ['asFound', ...(c.appliedBy === 'flow' ? (['quiet'] as const) : [])],
      command: checkItself,
    },
    {
      id: 'run',
      kind: 'wait',
      task: 'healthCheck',
      title: 'The device checks itself',
      says: 'It takes a minute to four. Nothing is touched until it is done.',
    },
    {
      id: 'result',
      kind: 'read',
      title: 'What it found',
      says: 'Change against the first check, and the alerts that stand. The table beside tells which.',
      fields: [
        { name: 'before', label: 'Checks before this one', unit: null, readsFrom: 'checksBefore' },
        { name: 'change_pct', label: 'Largest change since the first check', unit: '%', readsFrom: 'change' },
        { name: 'alerts', label: 'Alerts that stand', unit: null, readsFrom: 'alerts' },
      ],
    },
    acceptOrReport('A change that grows each time means something, even inside its limits.'),
    {
      id: 'outputsBack',
      kind: 'confirm',
      title: 'Outputs follow again',
      says: 'Look at the controller: the reading moves.',
      hold: ['The output follows the measurement again.'],
    },
    ...(c.appliedBy === 'flow' ? [OPEN_FLOW] : []),
    ...checkAndCall(c),
  ],
}
