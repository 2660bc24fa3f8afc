import { element, term, type PartKind } from '../part-kind.ts'
import { choice } from '../../quantity/setting.ts'

/** A limit switch, pressure switch or any contact without a voltage of its own. */
export const dryContact: PartKind = {
  kind: 'dry-contact',
  title: 'Dry contact',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  settings: [
    choice('fn', 'Contact', 'no', { no: 'NO, closes when actuated', nc: 'NC, opens when actuated' }),
  ],
  terminals: (s) => [
    term('a', s.word('fn') === 'no' ? '13' : '11', 'contact', 'right'),
    term('b', s.word('fn') === 'no' ? '14' : '12', 'contact', 'right'),
  ],
  actuate: () => ({ on: 'actuated', off: 'at rest' }),
  label: (s) => `dry contact ${s.word('fn').toUpperCase()}`,
  elements: (p) => [
    element(p, 'contact', { a: 'a', b: 'b' }, { closed: p.live.actuated !== (p.s.word('fn') === 'nc') }),
  ],
  testPoints: () => [['a', 'b', 'across the contact']],
}
