import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'
import { LINE_BIAS } from './serial-line.ts'

/** Takes one or two 4-20 mA channels and hands them on over a two-wire serial line. */
export const digitalConverter = definePart({
  kind: 'digital-converter',
  title: 'Digital converter, two channels',
  place: 'rack',
  duty: 'receiver',
  prefix: 'DC',
  line: 'master',
  settings: [
    number('input_ohm', 'Input resistance', 'Ω', 50, 1, 500),
    number('own_mA', 'Own consumption', 'mA', 60, 1, 1000),
    number('min_V', 'Lowest supply', 'V', 10, 5, 30),
    number('max_V', 'Highest supply', 'V', 36, 6, 60),
    number('used', 'Channel used', '', 1, 1, 2),
  ],
  terminals: () => [
    term('V+', 'V+', 'dc+', 'left'),
    term('V-', 'V−', 'dc-', 'left'),
    term('1+', '1+', 'loop+', 'left'),
    term('1-', '1−', 'loop-', 'left'),
    term('2+', '2+', 'loop+', 'left'),
    term('2-', '2−', 'loop-', 'left'),
    term('A', 'A', 'A', 'right'),
    term('B', 'B', 'B', 'right'),
  ],
  label: (s) => `channel ${s.used} used, ${s.input_ohm} Ω`,
  elements: (p) => [
    element(p, 'resistor', { a: 'V+', b: 'V-' }, { r: 24 / (p.s.own_mA / 1000) }, '~own'),
    ...[1, 2].map((c) =>
      element(
        p,
        'receiver',
        { in: `${c}+`, com: `${c}-` },
        { r: p.s.input_ohm, rNominal: p.s.input_ohm },
        `~${c}`,
      ),
    ),
    ...LINE_BIAS(p, p.live.powered && p.power, 'V-'),
  ],
  react: (p) => (p.volts('V+', 'V-') < p.s.min_V ? { powered: false } : {}),
  testPoints: (s) => [
    ['V+', 'V-', 'its supply'],
    [`${s.used}+`, `${s.used}-`, 'across the channel'],
    ['A', 'B', 'serial line at rest'],
  ],
  firstSign: () => 'its power lamp lights, the link lamp blinks when it is asked',
  loopLoad: (s) => ({ volts: 0, ohm: s.input_ohm }),
  receives: (s) => ({ into: `${s.used}+`, out: `${s.used}-`, channel: String(s.used) }),
  supplyLabel: (s) => ({ min_V: s.min_V, max_V: s.max_V }),
})
