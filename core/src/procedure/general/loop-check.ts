import type { Procedure, Step } from '../step.ts'
import { beginningClosed, ELECTRIC, endingClosed, release } from './common.ts'

const currents = (list: readonly number[]): Step[] =>
  list.flatMap((mA, i): Step[] => [
    {
      id: `current-${i + 1}-hold`,
      kind: 'apply',
      title: `Hold ${mA.toFixed(3)} mA`,
      says: 'Loop test: the output leaves the measurement and holds this current.',
      holdCurrent_mA: mA,
    },
    {
      id: `current-${i + 1}-read`,
      kind: 'read',
      title: `Read at ${mA.toFixed(3)} mA`,
      says: 'Meter in the loop, then what the controller shows.',
      holdCurrent_mA: mA,
      fields: [
        { name: 'mA', label: 'Loop current measured', unit: 'mA', readsFrom: 'current' },
        { name: 'shown', label: 'Controller shows', unit: null },
      ],
    },
  ])

export const LOOP_CHECK: Procedure = {
  id: 'loop-check',
  title: 'Loop check by held current',
  purpose:
    'Five currents through the wires to the controller: wiring, shunt, card and scaling, without touching the process.',
  minutes: 15,
  tools: ['loop meter'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  steps: (c) => [
    ...beginningClosed(c, ELECTRIC),
    ...currents([4, 8, 12, 16, 20]),
    release,
    ...endingClosed(c).map((s) =>
      s.id === 'check' ? { ...s, title: 'Does the controller show the process again?' } : s,
    ),
  ],
}
