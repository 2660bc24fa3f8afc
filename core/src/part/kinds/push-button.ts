import { element, term, definePart } from '../part-kind.ts'
import { choice } from '../../quantity/setting.ts'

/** A push-button: its contact is moved as long as somebody presses. */
export const pushButton = definePart({
  kind: 'push-button',
  title: 'Push-button',
  place: 'field',
  duty: 'sensor',
  prefix: 'S',
  settings: [choice('fn', 'Contact', 'no', { no: 'NO, closes when pressed', nc: 'NC, opens when pressed' })],
  terminals: (s) => [
    term('a', s.fn === 'no' ? '3' : '1', 'contact', 'right'),
    term('b', s.fn === 'no' ? '4' : '2', 'contact', 'right'),
  ],
  actuate: () => ({ on: 'pressed', off: 'released' }),
  label: (s) => `push-button ${s.fn.toUpperCase()}`,
  elements: (p) => [
    element(p, 'contact', { a: 'a', b: 'b' }, { closed: p.live.actuated !== (p.s.fn === 'nc') }),
  ],
  testPoints: () => [['a', 'b', 'across the contact']],
  caution: () => 'A stop button is never bridged: what it stops may start.',
  // A contact block is taken for 2 A.
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
