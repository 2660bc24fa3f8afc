import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A fuse terminal in the feed; its supply side is right. */
export const fuse = definePart({
  kind: 'fuse',
  title: 'Fuse',
  place: 'cabinet',
  duty: 'feed',
  prefix: 'F',
  settings: [
    number('rating_mA', 'Rating', 'mA', 100, 1, 20_000),
    number('r_ohm', 'Cold resistance', 'Ω', 2, 0.001, 100),
  ],
  terminals: () => [term('b', '2', 'through', 'left'), term('a', '1', 'through', 'right')],
  label: (s) => `${s.rating_mA} mA`,
  elements: (p) => [element(p, 'fuse', { a: 'a', b: 'b' }, { rating: p.s.rating_mA / 1000, r: p.s.r_ohm })],
  testPoints: () => [['a', 'b', 'across the fuse']],
  kit: ['spare fuses of the same rating'],
  loopLoad: (s) => ({ volts: 0, ohm: s.r_ohm }),
})
