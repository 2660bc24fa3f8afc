import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'
import { LINE_STATION } from './serial-line.ts'

/** A sensor that answers over a two-wire serial line and has its own supply terminals. */
export const serialSensor = definePart({
  kind: 'serial-sensor',
  title: 'Serial sensor, A and B',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  wiredAs: 'serial',
  line: 'station',
  settings: [
    number('own_mA', 'Own consumption', 'mA', 40, 1, 1000),
    number('min_V', 'Lowest supply', 'V', 10, 5, 30),
    number('max_V', 'Highest supply', 'V', 30, 6, 60),
    flag('ends', 'Line ends here (120 Ω)', true),
  ],
  terminals: () => [
    term('V+', 'V+', 'dc+', 'right'),
    term('V-', 'V−', 'dc-', 'right'),
    term('A', 'A', 'A', 'right'),
    term('B', 'B', 'B', 'right'),
  ],
  label: (s) => `serial, ${s.min_V} to ${s.max_V} V, takes ${s.own_mA} mA`,
  elements: (p) => [
    element(p, 'resistor', { a: 'V+', b: 'V-' }, { r: 24 / (p.s.own_mA / 1000) }, '~own'),
    ...LINE_STATION(p, p.s.ends),
  ],
  react: (p) => (p.volts('V+', 'V-') < p.s.min_V ? { powered: false } : {}),
  testPoints: () => [
    ['V+', 'V-', 'its supply'],
    ['A', 'B', 'serial line at rest'],
  ],
  firstSign: () => 'its lamp lights; it answers under its own address only',
  supplyLabel: (s) => ({ min_V: s.min_V, max_V: s.max_V }),
})
