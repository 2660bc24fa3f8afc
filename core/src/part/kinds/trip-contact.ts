import { element, term, definePart } from '../part-kind.ts'

/** The change-over contact of a level controller's trip relay. */
export const tripContact = definePart({
  kind: 'trip-contact',
  title: 'Trip relay contact',
  place: 'field',
  duty: 'sensor',
  prefix: 'LC',
  settings: [],
  terminals: () => [
    term('com', 'com', 'contact', 'right'),
    term('no', 'NO', 'contact', 'right'),
    term('nc', 'NC', 'contact', 'right'),
  ],
  actuate: () => ({ on: 'relay energised', off: 'relay off, or power lost' }),
  label: () => 'change-over; NO opens when power is lost',
  elements: (p) => [
    element(p, 'contact', { a: 'com', b: 'no' }, { closed: p.live.actuated }),
    element(p, 'contact', { a: 'com', b: 'nc' }, { closed: !p.live.actuated }, '~nc'),
  ],
  // A free contact is taken for 2 A.
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
