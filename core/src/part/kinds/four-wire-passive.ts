import { when } from '../../quantity/condition.ts'
import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'
import {
  powerCaution,
  powerElements,
  powerReacts,
  powerSettings,
  powerTerminals,
  powerTestPoints,
} from './four-wire-power.ts'

/** A separately supplied transmitter whose output only controls a current that something else must drive. */
export const fourWirePassive = definePart({
  kind: 'four-wire-passive',
  title: '4-wire transmitter, passive output',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  wiredAs: 'passive',
  settings: [
    number('lift_V', 'Output needs', 'V', 8, 1, 30),
    number('max_V', 'Highest at the output', 'V', 36, 5, 60),
    flag('aux', 'Has a 24 V for its own output', true),
    flag('jumper', 'Feed the output from it (jumper)', false, when('aux', true)),
    ...powerSettings,
  ],
  terminals: (s) => [
    term('plus', 'I+', 'loop+', 'right'),
    term('minus', 'I−', 'loop-', 'right'),
    ...(s.aux ? [term('auxP', '24+', 'dc+', 'right'), term('auxN', '24−', 'dc-', 'right')] : []),
    ...powerTerminals(s, 'right'),
  ],
  label: (s) => `4-wire, passive output, ${s.lift_V} to ${s.max_V} V`,
  elements: (p) => [
    element(
      p,
      'tx4passive',
      { plus: 'plus', minus: 'minus', ...(p.s.aux ? { auxP: 'auxP', auxN: 'auxN' } : {}) },
      {
        i: p.live.current_mA / 1000,
        vLift: p.s.lift_V,
        vMax: p.s.max_V,
        powered: p.power && p.live.powered,
      },
    ),
    ...powerElements(p),
  ],
  react: powerReacts,
  testPoints: (s) => [
    ['plus', 'minus', 'at the output'],
    ...(s.aux ? ([['auxP', 'auxN', 'its own 24 V']] as const) : []),
    ...powerTestPoints(s),
  ],
  caution: powerCaution,
  firstSign: () => 'its display lights; the output reads nothing until something feeds it',
  loopDevice: (s) => ({ lift_V: s.lift_V, max_V: s.max_V }),
  supplyLabel: (s) => ({ min_V: s.lift_V, max_V: s.max_V }),
  ownFeed: (s) => (!s.aux ? 'none' : s.jumper ? 'jumpered' : 'possible'),
})
