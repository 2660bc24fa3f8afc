import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

/** Impedance follows the jack, the reading follows the dial; each current jack has its own fuse. */
export const multimeter = definePart({
  kind: 'multimeter',
  title: 'Multimeter',
  place: 'tool',
  duty: 'meter',
  prefix: 'DMM',
  settings: [
    choice('jack', 'Red lead in', 'V', { V: 'V jack', mA: 'mA jack', '10A': '10 A jack' }),
    choice('dial', 'Dial at', 'V', { V: 'V DC', mA: 'mA DC', '10A': 'A DC', VAC: 'V AC', mAAC: 'mA AC' }),
    number('mA_ohm', 'mA jack resistance', 'Ω', 5, 0.1, 100),
    number('mA_fuse', 'mA jack fuse', 'mA', 400, 10, 2000),
  ],
  terminals: () => [term('red', 'red', 'lead+', 'left'), term('black', 'black', 'lead-', 'right')],
  label: (s) => `${s.jack} jack, dial ${s.dial}`,
  elements: (p) => [
    element(
      p,
      'dmm',
      { red: 'red', black: 'black' },
      {
        jack: p.s.jack,
        dial: p.s.dial.replace('AC', ''),
        rmA: p.s.mA_ohm,
        fusemA: p.s.mA_fuse / 1000,
      },
    ),
  ],
  caution: () =>
    'A lead left in the mA jack is a short circuit. Look at jack, dial, category rating and leads before every contact.',
  kit: ['multimeter with leads of the right category', 'spare meter fuse'],
  loopLoad: (s) => ({ volts: 0, ohm: s.jack === 'mA' ? s.mA_ohm : 0 }),
  meter: (s) => ({ jack: s.jack, dial: s.dial }),
})
