import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** Two legs, each behind a small resistance; what comes in from the line goes to earth over its foot. */
export const surgeProtector = definePart({
  kind: 'surge-protector',
  title: 'Surge protector',
  place: 'cabinet',
  duty: 'through',
  prefix: 'SPD',
  guards: true,
  settings: [number('leg_ohm', 'Resistance of a leg', 'Ω', 4.7, 0, 100)],
  terminals: () => [
    term('1', '1', 'through', 'left'),
    term('2', '2', 'through', 'left'),
    term('3', '3', 'through', 'right'),
    term('4', '4', 'through', 'right'),
  ],
  lanes: () => [
    ['1', '3'],
    ['2', '4'],
  ],
  label: (s) => `${s.leg_ohm} Ω a leg, earthed by its foot`,
  elements: (p) => [
    element(p, 'resistor', { a: '1', b: '3' }, { r: Math.max(p.s.leg_ohm, 1e-3) }, '~1'),
    element(p, 'resistor', { a: '2', b: '4' }, { r: Math.max(p.s.leg_ohm, 1e-3) }, '~2'),
  ],
  kit: ['conductor of 4 mm² or more from the rail to earth'],
  caution: () =>
    'It protects only with its foot on an earthed rail, and after a strike it may be dead: test it.',
  loopLoad: (s) => ({ volts: 0, ohm: 2 * s.leg_ohm }),
})
