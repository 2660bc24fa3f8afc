import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { DeviceCommand } from '../../device/command.ts'
import type { Advice, Procedure, StepAnswer } from '../step.ts'
import { sayNumber } from '../../quantity/round.ts'
import { beginningClosed, ELECTRIC, endingClosed } from './common.ts'

/** A change of this much since the first check is worth a report, %. */
const HEALTH_CHANGE_PCT = 5
function healthAdvice(run: ProcedureRun): Advice {
  const { change_pct = 0, alerts = 0 } = valuesOfStep(run, 'result')
  const good = alerts === 0 && Math.abs(change_pct) <= HEALTH_CHANGE_PCT
  return {
    choice: good ? 'accept' : 'report',
    says: [
      `Largest change ${sayNumber(change_pct, 3)} %, usual up to ${HEALTH_CHANGE_PCT} %. ${alerts === 0 ? 'No alert stands.' : `${sayNumber(alerts)} alerts stand.`}`,
    ],
  }
}

const checkItself = ({ choice }: StepAnswer): DeviceCommand => ({
  kind: 'healthCheck',
  output: choice === 'alarm' ? 'alarm' : 'held',
})

export const HEALTH_CHECK: Procedure = {
  id: 'health-check',
  title: 'Health check of the device',
  purpose:
    'The device looks at itself with its input at rest. The first check is the reference; later ones tell what has changed since.',
  minutes: 20,
  tools: ['link to the device'],
  permissions: ['input at rest, blocked in', 'loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  advise: healthAdvice,
  steps: (c) => [
    ...beginningClosed(c, ELECTRIC),
    {
      id: 'blockedIn',
      kind: 'valve',
      title: 'Block it in',
      says: 'Flow stopped and full, or the input at rest: what moves is taken for a change.',
      hold: ['The input stands still.'],
    },
    {
      id: 'output',
      kind: 'decide',
      title: 'What the output does meanwhile',
      says: 'Held, the controller sees nothing; at its alarm, everybody sees that it is not measuring.',
      choices: [
        { value: 'held', title: 'Held where it is' },
        { value: 'alarm', title: 'At its alarm current' },
      ],
      recommends: 'held',
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
        { name: 'change_pct', label: 'Largest change since the first check', unit: '%', readsFrom: 'change' },
        { name: 'alerts', label: 'Alerts that stand', unit: null, readsFrom: 'alerts' },
      ],
    },
    {
      id: 'decide',
      judged: true,
      kind: 'decide',
      title: 'Accept, or report',
      says: 'A change that grows each time means something, even inside its limits.',
      choices: [
        { value: 'accept', title: 'Accept' },
        { value: 'report', title: 'Report' },
      ],
    },
    ...endingClosed(c),
  ],
}
