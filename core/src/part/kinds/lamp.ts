import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

export const lamp = definePart({
  kind: 'lamp',
  title: 'Lamp',
  place: 'rack',
  duty: 'load',
  prefix: 'H',
  settings: [number('lamp_V', 'Voltage', 'V', 24, 1, 60), number('lamp_W', 'Power', 'W', 2, 0.05, 60)],
  terminals: () => [term('a1', 'X1', 'signal', 'left'), term('a2', 'X2', 'signal', 'left')],
  label: (s) => `${s.lamp_V} V, ${s.lamp_W} W`,
  elements: (p) => [element(p, 'lamp', { a: 'a1', b: 'a2' }, { vNom: p.s.lamp_V, pNom: p.s.lamp_W })],
  testPoints: () => [['a1', 'a2', 'across the lamp']],
  firstSign: () => 'it lights',
  switchedLoad: (s) => ({ volts: s.lamp_V, amps: s.lamp_W / s.lamp_V, coil: false }),
})
