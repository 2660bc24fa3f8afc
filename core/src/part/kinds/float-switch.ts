import { element, term, definePart } from '../part-kind.ts'
import { choice } from '../../quantity/setting.ts'

/** A float that moves a contact when the level reaches it. */
export const floatSwitch = definePart({
  kind: 'float-switch',
  title: 'Float switch',
  place: 'field',
  duty: 'sensor',
  prefix: 'LS',
  settings: [
    choice('fn', 'Contact', 'nc', {
      nc: 'NC, opens when the float rises',
      no: 'NO, closes when the float rises',
    }),
  ],
  terminals: () => [term('a', '1', 'contact', 'right'), term('b', '2', 'contact', 'right')],
  actuate: () => ({ on: 'float up', off: 'float hangs' }),
  label: (s) => `float, ${s.fn.toUpperCase()}`,
  elements: (p) => [
    element(p, 'contact', { a: 'a', b: 'b' }, { closed: p.live.actuated !== (p.s.fn === 'nc') }),
  ],
  testPoints: () => [['a', 'b', 'across the float’s contact']],
  caution: () =>
    'Open sumps drown and gas. Lift the float with a pole from outside; entry needs its own permit.',
  kit: ['pole to lift the float'],
  // A free contact is taken for 2 A.
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
