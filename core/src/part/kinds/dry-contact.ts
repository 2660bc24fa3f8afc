import { element, term, definePart } from '../part-kind.ts'
import { choice } from '../../quantity/setting.ts'

/** A limit switch, pressure switch or any contact without a voltage of its own. */
export const dryContact = definePart({
  kind: 'dry-contact',
  title: 'Dry contact',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  settings: [
    choice('fn', 'Contact', 'no', { no: 'NO, closes when actuated', nc: 'NC, opens when actuated' }),
  ],
  terminals: (s) => [
    term('a', s.fn === 'no' ? '13' : '11', 'contact', 'right'),
    term('b', s.fn === 'no' ? '14' : '12', 'contact', 'right'),
  ],
  actuate: () => ({ on: 'actuated', off: 'at rest' }),
  label: (s) => `dry contact ${s.fn.toUpperCase()}`,
  elements: (p) => [
    element(p, 'contact', { a: 'a', b: 'b' }, { closed: p.live.actuated !== (p.s.fn === 'nc') }),
  ],
  testPoints: () => [['a', 'b', 'across the contact']],
  // A free contact is taken for 2 A.
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
