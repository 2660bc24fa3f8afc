import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'
import {
  powerCaution,
  powerElements,
  powerReacts,
  powerSettings,
  powerTerminals,
  powerTestPoints,
} from './four-wire-power.ts'

/** A separately supplied transmitter whose output drives the loop itself. */
export const fourWireActive = definePart({
  kind: 'four-wire-active',
  title: '4-wire transmitter, active output',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  wiredAs: 'active',
  settings: [number('compliance_V', 'Output drives up to', 'V', 15, 2, 30), ...powerSettings],
  terminals: (s) => [
    term('plus', 'I+', 'loop+', 'right'),
    term('minus', 'I−', 'loop-', 'right'),
    ...powerTerminals(s, 'right'),
  ],
  label: (s) => `4-wire, active output, up to ${Math.floor(s.compliance_V / 0.0225)} Ω`,
  elements: (p) => [
    element(
      p,
      'tx4active',
      { plus: 'plus', minus: 'minus' },
      {
        i: p.power && p.live.powered ? p.live.current_mA / 1000 : 0,
        vCompliance: p.s.compliance_V,
      },
    ),
    ...powerElements(p),
  ],
  react: powerReacts,
  testPoints: (s) => [['plus', 'minus', 'at the output'], ...powerTestPoints(s)],
  caution: powerCaution,
  firstSign: () => 'its display lights; open, its output reads a voltage of its own',
  supplyLabel: (s) => (s.fed === 'dc' ? { min_V: s.min_V, max_V: null } : null),
})
