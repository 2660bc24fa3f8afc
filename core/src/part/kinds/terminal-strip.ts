import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

const numbers = (s: { readonly ways: number }) => Array.from({ length: s.ways }, (_, i) => i + 1)

/** Feed-through terminals, one number a way. */
export const terminalStrip = definePart({
  kind: 'terminal-strip',
  title: 'Terminal strip',
  place: 'cabinet',
  duty: 'through',
  prefix: 'X',
  settings: [
    number('ways', 'Terminals', '', 4, 1, 12),
    choice('where', 'Stands in', 'cabinet', { box: 'the junction box', cabinet: 'the cabinet' }),
  ],
  terminals: (s) => [
    ...numbers(s).map((n) => term(`f${n}`, String(n), 'through', 'left')),
    ...numbers(s).map((n) => term(`p${n}`, String(n), 'through', 'right')),
  ],
  lanes: (s) => numbers(s).map((n) => [`f${n}`, `p${n}`] as const),
  label: (s) => `${s.ways} ways, ${s.where === 'box' ? 'junction box' : 'cabinet'}`,
  elements: (p) =>
    numbers(p.s).map((n) =>
      element(p, 'wire', { a: `f${n}`, b: `p${n}` }, { length: 1, ohmPerKm: 1 }, `~${n}`),
    ),
  kit: ['ferrules'],
  placeOf: (s) => (s.where === 'box' ? 'box' : 'cabinet'),
})
