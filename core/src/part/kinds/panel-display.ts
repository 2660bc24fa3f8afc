import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A panel display with a supply of its own: the loop only passes through its input. */
export const panelDisplay = definePart({
  kind: 'panel-display',
  title: 'Panel display, separately fed',
  place: 'cabinet',
  duty: 'inLoop',
  prefix: 'LI',
  settings: [
    number('input_ohm', 'Input resistance', 'Ω', 12, 0.1, 500),
    number('own_mA', 'Own consumption', 'mA', 80, 1, 1000),
    number('min_V', 'Lowest supply', 'V', 10, 5, 30),
    number('max_V', 'Highest supply', 'V', 36, 6, 60),
  ],
  terminals: () => [
    term('plus', 'in+', 'loop+', 'left'),
    term('minus', 'in−', 'loop-', 'left'),
    term('V+', 'V+', 'dc+', 'right'),
    term('V-', 'V−', 'dc-', 'right'),
  ],
  label: (s) => `${s.input_ohm} Ω, takes ${s.own_mA} mA of its own`,
  elements: (p) => [
    element(
      p,
      'indicator',
      { plus: 'plus', minus: 'minus' },
      { vDrop: 0, r: p.s.input_ohm, backlight: false, vBacklight: 0 },
    ),
    element(p, 'resistor', { a: 'V+', b: 'V-' }, { r: 24 / (p.s.own_mA / 1000) }, '~own'),
  ],
  react: (p) => (p.volts('V+', 'V-') < p.s.min_V ? { powered: false } : {}),
  testPoints: () => [
    ['V+', 'V-', 'its supply'],
    ['plus', 'minus', 'across its input'],
  ],
  firstSign: () => 'its figures light; without its own supply it is dark and the loop goes on',
  loopLoad: (s) => ({ volts: 0, ohm: s.input_ohm }),
  supplyLabel: (s) => ({ min_V: s.min_V, max_V: s.max_V }),
})
