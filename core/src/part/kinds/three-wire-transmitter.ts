import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** Supply and current output share the common terminal. */
export const threeWireTransmitter = definePart({
  kind: 'three-wire-transmitter',
  title: '3-wire transmitter',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  wiredAs: 'threeWire',
  sendsAt: 'out',
  settings: [
    number('min_V', 'Lowest supply', 'V', 18, 5, 36),
    number('max_V', 'Highest supply', 'V', 36, 6, 60),
    number('own_mA', 'Own consumption', 'mA', 50, 1, 500),
    number('headroom_V', 'Supply above the output by', 'V', 3, 0.5, 15),
  ],
  terminals: () => [
    term('plus', '+', 'dc+', 'right'),
    term('out', 'out', 'loop+', 'right'),
    term('minus', '−', 'dc-', 'right'),
  ],
  label: (s) => `3-wire, from ${s.min_V} V, takes ${s.own_mA} mA`,
  elements: (p) => [
    element(
      p,
      'tx3',
      { vp: 'plus', out: 'out', vn: 'minus' },
      {
        i: p.live.current_mA / 1000,
        headroom: p.s.headroom_V,
        iq: p.s.own_mA / 1000,
        vMin: p.s.min_V,
      },
    ),
  ],
  testPoints: () => [
    ['plus', 'minus', 'supply at the transmitter'],
    ['out', 'minus', 'output to its common'],
  ],
  firstSign: () => 'its display or power lamp lights',
  supplyLabel: (s) => ({ min_V: s.min_V, max_V: s.max_V }),
})
