import { element, term, definePart } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** A power contactor; its coil takes far more than a sensor gives. Its contacts switch extra-low voltage here. */
export const contactor = definePart({
  kind: 'contactor',
  title: 'Contactor',
  place: 'rack',
  duty: 'load',
  prefix: 'KM',
  settings: [
    number('coil_V', 'Coil voltage', 'V', 24, 3, 230),
    number('coil_ohm', 'Coil resistance', 'Ω', 120, 5, 50_000),
    choice('contacts', 'Contacts drawn', '0', {
      '0': 'the coil only',
      '1': 'one pole and one NC',
      '2': 'two poles and one NC',
    }),
    flag('suppressed', 'Suppression built in', false),
  ],
  terminals: (s) => [
    term('a1', 'A1', 'signal', 'left'),
    term('a2', 'A2', 'signal', 'left'),
    ...(s.contacts === '0'
      ? []
      : [
          term('com', '1', 'contact', 'right'),
          term('no', '2', 'contact', 'right'),
          ...(s.contacts === '2'
            ? [term('com2', '3', 'contact', 'right'), term('no2', '4', 'contact', 'right')]
            : []),
          term('nca', '21', 'contact', 'right'),
          term('ncb', '22', 'contact', 'right'),
        ]),
  ],
  label: (s) => `coil ${s.coil_V} V, ${Math.round((s.coil_V / s.coil_ohm) * 1000)} mA`,
  elements: (p) => [
    element(
      p,
      'contactor',
      {
        a1: 'a1',
        a2: 'a2',
        ...(p.s.contacts === '0' ? {} : { com: 'com', no: 'no', nca: 'nca', ncb: 'ncb' }),
        ...(p.s.contacts === '2' ? { com2: 'com2', no2: 'no2' } : {}),
      },
      { rCoil: p.s.coil_ohm, vNom: p.s.coil_V },
    ),
  ],
  testPoints: () => [['a1', 'a2', 'across the coil']],
  caution: () => 'What it switches may be mains and may start a machine. Isolate and lock that side first.',
  firstSign: () => 'it pulls in with a thump',
  switchedLoad: (s) => ({ volts: s.coil_V, amps: s.coil_V / s.coil_ohm, coil: true }),
})
