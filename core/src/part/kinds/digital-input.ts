import { INPUT_TYPES } from '../../circuit/elements/discrete.ts'
import { element, term, definePart } from '../part-kind.ts'
import { choice, flag } from '../../quantity/setting.ts'

const TYPES = { '1': 1, '2': 2, '3': 3 } as const

/** The arrow says what a word does not: into the card, or out of it. Words for it go by the plant. */
const CARD_MODES = {
  sink: 'arrow into the card, common at 0 V',
  source: 'arrow out of the card, common at +24 V',
  bidir: 'either way, the common decides',
} as const

/** One channel of a 24 V input card and its common. @see IEC 61131-2 */
export const digitalInput = definePart({
  kind: 'digital-input',
  title: '24 V input',
  place: 'rack',
  duty: 'input',
  prefix: 'DI',
  settings: [
    choice('mode', 'Current flows', 'sink', CARD_MODES),
    choice('type', 'Input type', '3', {
      '1': 'type 1, contacts and 3-wire',
      '2': 'type 2, heavy',
      '3': 'type 3, 2-wire and 3-wire',
    }),
    flag('inverts', 'Turned round in the program', false),
  ],
  terminals: () => [term('in', 'in', 'signal', 'left'), term('com', 'com', 'signal', 'left')],
  label: (s) =>
    `type ${s.type}, ${s.mode === 'sink' ? '→ com 0 V' : s.mode === 'source' ? '← com +24 V' : '↔ either way'}`,
  elements: (p) => [
    element(
      p,
      'di',
      { in: 'in', com: 'com' },
      {
        mode: p.s.mode,
        iecType: Number(p.s.type) as keyof typeof INPUT_TYPES,
      },
    ),
  ],
  testPoints: () => [['in', 'com', 'across the input']],
  firstSign: () => 'the channel lamp follows the bit',
  input: (s) => ({ mode: s.mode, type: TYPES[s.type] }),
})
