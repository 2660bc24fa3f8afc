import { adjusted } from '../parts.ts'
import type { Procedure } from '../step.ts'
import { beginningClosed, ELECTRIC, endingClosed } from './common.ts'

export const CONFIGURATION: Procedure = {
  id: 'configuration',
  title: 'Store the configuration',
  purpose: 'Read all, compare with the record, write what differs, store, read back.',
  minutes: 15,
  tools: ['link to the device'],
  permissions: ['loop in manual'],
  cautions: ELECTRIC,
  steps: (c) => [
    ...beginningClosed(c, ELECTRIC),
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
    ...endingClosed(c),
  ],
}
