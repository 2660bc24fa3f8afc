import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A pull-up or pull-down, a bleeder, a shunt, or the resistor a superimposed signal needs. */
export const resistor = definePart({
  kind: 'resistor',
  title: 'Resistor',
  place: 'cabinet',
  duty: 'loose',
  prefix: 'R',
  looseUse: 'pulls',
  settings: [
    number('r_ohm', 'Resistance', 'Ω', 250, 0, 10_000_000),
    number('power_W', 'Power rating', 'W', 0.5, 0.05, 100),
  ],
  terminals: () => [term('a', '1', 'through', 'left'), term('b', '2', 'through', 'right')],
  label: (s) => `${s.r_ohm} Ω, ${s.power_W} W`,
  elements: (p) => [element(p, 'resistor', { a: 'a', b: 'b' }, { r: p.s.r_ohm })],
  testPoints: () => [['a', 'b', 'across the resistor']],
  loopLoad: (s) => ({ volts: 0, ohm: s.r_ohm }),
})
