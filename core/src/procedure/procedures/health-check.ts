import type { Procedure } from '../step.ts'
import { beginningClosed, ELECTRIC, endingClosed } from './common.ts'

export const HEALTH_CHECK: Procedure = {
  id: 'health-check',
  title: 'Health check of the device',
  purpose:
    'The device looks at itself with its input at rest. The first check is the reference; later ones tell what has changed since.',
  minutes: 20,
  fits: (type) => !/switch|display/i.test(type),
  tools: ['link to the device'],
  permissions: ['input at rest, blocked in', 'loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
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
        { name: 'change_pct', label: 'Largest change since the first check', unit: '%' },
        { name: 'alerts', label: 'Alerts that stand', unit: null },
      ],
    },
    {
      id: 'decide',
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
