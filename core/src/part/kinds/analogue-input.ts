import { element, term, type PartKind } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** One channel of a 4-20 mA input card, with or without a loop feed of its own. */
export const analogueInput: PartKind = {
  kind: 'analogue-input',
  title: '4-20 mA input',
  place: 'rack',
  duty: 'receiver',
  prefix: 'AI',
  settings: [
    number('shunt_ohm', 'Input resistance fitted', 'Ω', 250, 0.1, 2000),
    number('scaled_ohm', 'Scaled for', 'Ω', 250, 0.1, 2000),
    flag('feeds', 'Can feed the loop', false),
    number('feed_V', 'Feed voltage', 'V', 24, 5, 36, (s) => s.flag('feeds')),
    number('feed_ohm', 'Feed resistance', 'Ω', 20, 0.1, 500, (s) => s.flag('feeds')),
  ],
  terminals: (s) => [
    ...(s.flag('feeds') ? [term('sup', '24+', 'dc+', 'left')] : []),
    term('in', 'in+', 'loop+', 'left'),
    term('com', 'com', 'dc-', 'left'),
  ],
  label: (s) =>
    `${s.num('shunt_ohm')} Ω${s.flag('feeds') ? `, feeds ${s.num('feed_V')} V` : ', does not feed'}`,
  elements: (p) => [
    element(
      p,
      'ai',
      { in: 'in', com: 'com', ...(p.s.flag('feeds') && p.wired('sup') ? { sup: 'sup' } : {}) },
      {
        r: p.s.num('shunt_ohm'),
        rNominal: p.s.num('scaled_ohm'),
        v: p.power ? p.s.num('feed_V') : 0,
        rs: p.s.num('feed_ohm'),
      },
    ),
  ],
  testPoints: (s) => [
    ['in', 'com', 'across the input'],
    ...(s.flag('feeds') ? ([['sup', 'com', 'the card’s feed']] as const) : []),
  ],
  firstSign: () => 'the channel lamp of the card; the wire-break alarm clears',
}
