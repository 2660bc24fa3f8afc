import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** A power contactor; its coil takes far more than a sensor gives. */
export const contactor = definePart({
  kind: 'contactor',
  title: 'Contactor',
  place: 'rack',
  duty: 'load',
  prefix: 'M',
  settings: [
    number('coil_V', 'Coil voltage', 'V', 24, 3, 230),
    number('coil_ohm', 'Coil resistance', 'Ω', 120, 5, 50_000),
    flag('suppressed', 'Suppression built in', false),
  ],
  terminals: () => [term('a1', 'A1', 'signal', 'left'), term('a2', 'A2', 'signal', 'left')],
  label: (s) => `coil ${s.coil_V} V, ${Math.round((s.coil_V / s.coil_ohm) * 1000)} mA`,
  elements: (p) => [element(p, 'relay', { a1: 'a1', a2: 'a2' }, { rCoil: p.s.coil_ohm, vNom: p.s.coil_V })],
  testPoints: () => [['a1', 'a2', 'across the coil']],
  caution: () => 'What it switches may be mains and may start a machine. Isolate and lock that side first.',
  firstSign: () => 'it pulls in with a thump',
  switchedLoad: (s) => ({ volts: s.coil_V, amps: s.coil_V / s.coil_ohm, coil: true }),
})
