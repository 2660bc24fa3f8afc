import { when } from '../../quantity/condition.ts'
import { element, term, definePart } from '../part-kind.ts'
import { flag, number } from '../../quantity/setting.ts'

/** One channel of a 4-20 mA input card, with or without a loop feed of its own. */
export const analogueInput = definePart({
  kind: 'analogue-input',
  title: '4-20 mA input',
  place: 'rack',
  duty: 'receiver',
  prefix: 'AI',
  settings: [
    number('shunt_ohm', 'Input resistance fitted', 'Ω', 250, 0.1, 2000),
    number('scaled_ohm', 'Scaled for', 'Ω', 250, 0.1, 2000),
    flag('feeds', 'Can feed the loop', false),
    number('feed_V', 'Feed voltage', 'V', 24, 5, 36, when('feeds', true)),
    number('feed_ohm', 'Feed resistance', 'Ω', 20, 0.1, 500, when('feeds', true)),
  ],
  terminals: (s) => [
    ...(s.feeds ? [term('sup', '24+', 'dc+', 'left')] : []),
    term('in', 'in+', 'loop+', 'left'),
    term('com', 'com', 'dc-', 'left'),
  ],
  label: (s) => `${s.shunt_ohm} Ω${s.feeds ? `, feeds ${s.feed_V} V` : ', does not feed'}`,
  elements: (p) => [
    element(
      p,
      'ai',
      { in: 'in', com: 'com', ...(p.s.feeds && p.wired('sup') ? { sup: 'sup' } : {}) },
      {
        r: p.s.shunt_ohm,
        rNominal: p.s.scaled_ohm,
        v: p.power ? p.s.feed_V : 0,
        rs: p.s.feed_ohm,
      },
    ),
  ],
  testPoints: (s) => [
    ['in', 'com', 'across the input'],
    ...(s.feeds ? ([['sup', 'com', 'the card’s feed']] as const) : []),
  ],
  firstSign: () => 'the channel lamp of the card; the wire-break alarm clears',
  loopLoad: (s) => ({ volts: 0, ohm: s.shunt_ohm }),
  loopFeed: (s) =>
    s.feeds ? { nominal_V: s.feed_V, min_V: s.feed_V, max_V: s.feed_V, ohm: s.feed_ohm } : null,
  receives: () => ({ into: 'in', out: 'com', channel: null }),
})
