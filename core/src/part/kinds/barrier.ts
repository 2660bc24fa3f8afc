import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A two-channel safety barrier: one leg for the way out, one for the way back. */
export const barrier = definePart({
  kind: 'barrier',
  title: 'Barrier, two legs',
  place: 'cabinet',
  duty: 'through',
  prefix: 'BR',
  guards: true,
  settings: [
    number('out_ohm', 'Leg 1 end to end', 'Ω', 306, 1, 2000),
    number('back_ohm', 'Leg 2 end to end', 'Ω', 20, 0, 2000),
    number('back_V', 'Leg 2 diode drop', 'V', 0.9, 0, 5),
  ],
  terminals: () => [
    term('3', '3', 'through', 'left'),
    term('4', '4', 'through', 'left'),
    term('1', '1', 'through', 'right'),
    term('2', '2', 'through', 'right'),
  ],
  lanes: () => [
    ['3', '1'],
    ['4', '2'],
  ],
  label: (s) => `${s.out_ohm} Ω / ${s.back_ohm} Ω + ${s.back_V} V`,
  elements: (p) => [
    element(p, 'barrier', { a: '1', b: '3' }, { r: p.s.out_ohm }),
    element(p, 'barrier', { a: '4', b: '2' }, { r: p.s.back_ohm, vDrop: p.s.back_V }, '~2'),
  ],
  caution: () =>
    'Hazardous area: no live circuit is opened and no meter connected unless circuit and tool are certified for it and a permit allows it.',
  loopLoad: (s) => ({ volts: s.back_V, ohm: s.out_ohm + s.back_ohm }),
})
