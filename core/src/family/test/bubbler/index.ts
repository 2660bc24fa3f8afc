import { OTHER_DEVICE } from '../../../device/other.ts'
import { callAndBypass, checkAndCall } from '../../../procedure/parts.ts'
import type { Procedure } from '../../../procedure/step.ts'
import { when } from '../../../quantity/condition.ts'
import { choice, number } from '../../../quantity/setting.ts'
import { defineFamily } from '../../define.ts'
import { group } from '../../family.ts'

/** A family that is not there: level by the pressure that pushes bubbles out of a tube. For tests only. */
const GROUPS = [
  group('Tube', [
    choice('gas', 'Gas', 'air', { air: 'air', nitrogen: 'nitrogen' }),
    number('depth_m', 'Depth of the tube', 'm', 2, 0.1, 20),
    number('density_kg_m3', 'Density', 'kg/m3', 1000, 500, 2000),
    number('bottle_kPa', 'Bottle', 'kPa', 5000, 100, 30_000, when('gas', 'nitrogen')),
  ]),
] as const

const CAUTIONS = ['Gas in a closed room: wear an oxygen meter.']
export const PURGE: Procedure = {
  id: 'bubbler-purge',
  judges: 'sensor',
  title: 'Purge the tube',
  purpose: 'A clogged tube reads high.',
  minutes: 5,
  tools: ['spanner'],
  permissions: ['loop in manual'],
  cautions: CAUTIONS,
  judge: () => ({ result: 'notJudged', says: ['Nothing was read.'] }),
  advise: () => ({ choice: 'accept', says: ['Bubbles come again.'] }),
  steps: (c) => [
    ...callAndBypass(c, CAUTIONS),
    {
      id: 'purge',
      kind: 'confirm',
      title: 'Full flow for ten seconds',
      says: 'Then back to the usual bubbles.',
      command: { kind: 'apply', value: null },
    },
    ...checkAndCall(c),
  ],
}

export const bubbler = defineFamily({
  id: 'bubbler',
  title: 'Bubble tube',
  usualWords: [['bubbler'], ['bubble tube', { gas: 'nitrogen' }]],
  groups: GROUPS,
  compute: (s) => ({
    rows: [
      { label: 'Pressure when full', value: (s.density_kg_m3 * 9.80665 * s.depth_m) / 1000, unit: 'kPa' },
    ],
    findings: [],
    sheet: [{ says: 'Depth', value: `${s.depth_m} m` }],
    drawing: null,
  }),
  ranges: (s) => [{ low: 0, high: s.depth_m, unit: 'm' }],
  rangeEntries: () => ['depth_m'],
  device: {
    ...OTHER_DEVICE,
    title: 'Bubble tube',
    signals: (at, s) => [
      { name: 'back_kPa', title: 'Back pressure', value: at.fraction * s.depth_m * 9.8, unit: 'kPa' },
    ],
  },
  parts: () => ({ sender: { kind: 'four-wire-passive' }, cores: 4, feed: 'supply', into: 'analogue' }),
  references: ['gauge glass'],
  needs: { kit: ['spanner'], cautions: CAUTIONS },
})
