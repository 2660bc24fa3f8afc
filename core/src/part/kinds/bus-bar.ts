import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

const places = (s: { readonly ways: number }) => Array.from({ length: s.ways }, (_, i) => `${i + 1}`)

/** One piece of copper with many terminals: everything that lands on it has one voltage. */
export const busBar = definePart({
  kind: 'bus-bar',
  title: 'Bus bar',
  place: 'cabinet',
  duty: 'bar',
  prefix: 'XB',
  settings: [
    number('ways', 'Terminals', '', 4, 2, 12),
    choice('carries', 'Carries', 'plus', { plus: '+24 V', minus: '0 V', screens: 'screens, to earth' }),
  ],
  terminals: (s) => [
    ...places(s).map((n) => term(`t${n}`, n, 'through', 'left')),
    term('in', 'in', 'through', 'right'),
  ],
  lanes: (s) => places(s).map((n) => [`t${n}`, 'in'] as const),
  label: (s) => `${s.ways} terminals, ${{ plus: '+24 V', minus: '0 V', screens: 'screens' }[s.carries]}`,
  elements: (p) =>
    places(p.s).map((n) =>
      element(p, 'wire', { a: `t${n}`, b: 'in' }, { length: 0.1, ohmPerKm: 1 }, `~${n}`),
    ),
  kit: ['ferrules'],
})
