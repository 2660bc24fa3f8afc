import { element, term, definePart } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** An interposing relay with one change-over contact, or two. */
export const relay = definePart({
  kind: 'relay',
  title: 'Relay, change-over',
  place: 'cabinet',
  duty: 'switching',
  prefix: 'K',
  settings: [
    number('coil_V', 'Coil voltage', 'V', 24, 3, 230),
    number('coil_ohm', 'Coil resistance', 'Ω', 1100, 5, 50_000),
    flag('suppressed', 'Suppression built in', false),
    choice('contacts', 'Contacts', '1', { '1': 'one change-over', '2': 'two change-overs' }),
  ],
  terminals: (s) => [
    term('a1', 'A1', 'signal', 'left'),
    term('a2', 'A2', 'signal', 'left'),
    term('com', '11', 'contact', 'right'),
    term('no', '14', 'contact', 'right'),
    term('nc', '12', 'contact', 'right'),
    ...(s.contacts === '2'
      ? [
          term('com2', '21', 'contact', 'right'),
          term('no2', '24', 'contact', 'right'),
          term('nc2', '22', 'contact', 'right'),
        ]
      : []),
  ],
  label: (s) => `coil ${s.coil_V} V, ${s.coil_ohm} Ω`,
  elements: (p) => [
    element(
      p,
      'relay',
      {
        a1: 'a1',
        a2: 'a2',
        com: 'com',
        no: 'no',
        nc: 'nc',
        ...(p.s.contacts === '2' ? { com2: 'com2', no2: 'no2', nc2: 'nc2' } : {}),
      },
      { rCoil: p.s.coil_ohm, vNom: p.s.coil_V },
    ),
  ],
  testPoints: () => [['a1', 'a2', 'across the coil']],
  kit: ['diode for the coil, cathode to plus'],
  firstSign: () => 'it clicks when the coil gets its voltage',
  switchedLoad: (s) => ({ volts: s.coil_V, amps: s.coil_V / s.coil_ohm, coil: true }),
})
