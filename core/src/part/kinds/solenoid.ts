import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** The coil of a solenoid valve. */
export const solenoid = definePart({
  kind: 'solenoid',
  title: 'Solenoid valve',
  place: 'field',
  duty: 'load',
  prefix: 'XV',
  settings: [
    number('coil_V', 'Coil voltage', 'V', 24, 3, 230),
    number('coil_W', 'Coil power', 'W', 8, 0.1, 100),
    flag('suppressed', 'Suppression built in', false),
  ],
  terminals: () => [term('a1', '1', 'signal', 'right'), term('a2', '2', 'signal', 'right')],
  label: (s) => `coil ${s.coil_V} V, ${s.coil_W} W`,
  elements: (p) => [
    element(p, 'relay', { a1: 'a1', a2: 'a2' }, { rCoil: p.s.coil_V ** 2 / p.s.coil_W, vNom: p.s.coil_V }),
  ],
  testPoints: () => [['a1', 'a2', 'across the coil']],
  caution: () =>
    'The valve moves when the coil is powered: vent or block what it lets through. A coil that was on is hot.',
  firstSign: () => 'it clicks, and what it lets through can be heard or seen',
  switchedLoad: (s) => ({ volts: s.coil_V, amps: s.coil_W / s.coil_V, coil: true }),
})
