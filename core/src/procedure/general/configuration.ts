import { adjusted, callAndBypass, checkAndCall } from '../parts.ts'
import type { Procedure } from '../step.ts'
import { ELECTRIC } from './common.ts'

export const CONFIGURATION: Procedure = {
  id: 'configuration',
  judges: 'stored',
  title: 'Store the configuration',
  purpose: 'Read all, compare with the record, write what differs, store, read back.',
  minutes: 15,
  tools: ['link to the device'],
  permissions: ['loop in manual'],
  cautions: ELECTRIC,
  judge: (run) =>
    run.done.some((d) => d.step.id === 'stored')
      ? {
          result: 'notJudged',
          says: ['Stored and read back. What is stored proves no reading: verify one point.'],
        }
      : { result: 'notDone', says: ['Nothing was stored.'] },
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    {
      id: 'compared',
      kind: 'confirm',
      title: 'Device compared with the record',
      says: 'Every difference is looked at; a characterization of another sensor is never copied.',
      hold: [
        'What will be overwritten was read, line by line.',
        'The characterization belongs to this sensor.',
      ],
    },
    { ...adjusted, id: 'stored' },
    ...checkAndCall(c),
  ],
}
