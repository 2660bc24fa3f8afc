import { element, term, definePart } from '../part-kind.ts'

/** A selector of two positions: one contact closed in each. */
export const selector = definePart({
  kind: 'selector',
  title: 'Selector, two positions',
  place: 'field',
  duty: 'sensor',
  prefix: 'S',
  settings: [],
  terminals: () => [
    term('com', 'com', 'contact', 'right'),
    term('no', 'pos 1', 'contact', 'right'),
    term('nc', 'pos 0', 'contact', 'right'),
  ],
  actuate: () => ({ on: 'position 1', off: 'position 0' }),
  label: () => 'one contact in each position',
  elements: (p) => [
    element(p, 'contact', { a: 'com', b: 'no' }, { closed: p.live.actuated }),
    element(p, 'contact', { a: 'com', b: 'nc' }, { closed: !p.live.actuated }, '~nc'),
  ],
  // A contact block is taken for 2 A.
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
