import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

const TERMINALS = () => [term('plus', '+', 'loop+', 'right'), term('minus', '−', 'loop-', 'right')]

/** A calibrator that drives the loop itself, in the place of a transmitter with an active output. */
export const calibratorDriving = definePart({
  kind: 'calibrator-driving',
  title: 'Loop calibrator, driving',
  place: 'field',
  duty: 'transmitter',
  prefix: 'CAL',
  wiredAs: 'active',
  settings: [number('compliance_V', 'Drives up to', 'V', 24, 5, 40)],
  terminals: TERMINALS,
  label: (s) => `source, up to ${s.compliance_V} V`,
  elements: (p) => [
    element(
      p,
      'tx4active',
      { plus: 'plus', minus: 'minus' },
      { i: p.live.current_mA / 1000, vCompliance: p.s.compliance_V },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'at the calibrator']],
  caution: () =>
    'The receiver follows what is sent: the function is in manual or bypassed, and the operators know.',
  firstSign: () => 'it shows the current that it drives; “open” says that the loop is not closed',
})

/** A calibrator that only lets a current through, in the place of a 2-wire transmitter. */
export const calibratorSimulating = definePart({
  kind: 'calibrator-simulating',
  title: 'Loop calibrator, as a 2-wire',
  place: 'field',
  duty: 'transmitter',
  prefix: 'CAL',
  wiredAs: 'twoWire',
  settings: [
    number('lift_V', 'Lift-off voltage', 'V', 4, 1, 12),
    number('max_V', 'Highest voltage', 'V', 30, 5, 60),
  ],
  terminals: TERMINALS,
  label: (s) => `simulates, ${s.lift_V} to ${s.max_V} V`,
  elements: (p) => [
    element(
      p,
      'tx2',
      { plus: 'plus', minus: 'minus' },
      { i: p.live.current_mA / 1000, vLift: p.s.lift_V, vMax: p.s.max_V },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'at the calibrator']],
  caution: () =>
    'The receiver follows what is sent: the function is in manual or bypassed, and the operators know.',
  firstSign: () => 'it shows the current that it lets through; nothing flows until something feeds the loop',
  loopDevice: (s) => ({ lift_V: s.lift_V, max_V: s.max_V }),
  supplyLabel: (s) => ({ min_V: s.lift_V, max_V: s.max_V }),
})
