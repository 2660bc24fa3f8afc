import { element, term, definePart } from '../part-kind.ts'

/** Across a coil, cathode to plus, it swallows the coil's kick. */
export const diode = definePart({
  kind: 'diode',
  title: 'Diode',
  place: 'cabinet',
  duty: 'loose',
  prefix: 'VD',
  looseUse: 'suppresses',
  settings: [],
  terminals: () => [term('a', 'A', 'through', 'left'), term('k', 'K', 'through', 'right')],
  label: () => 'anode A, cathode K (ring)',
  elements: (p) => [element(p, 'diode', { a: 'a', k: 'k' })],
})
