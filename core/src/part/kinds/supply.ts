import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

/** A 24 V DC supply unit; its minus is the 0 V of the cabinet. */
export const supply = definePart({
  kind: 'supply',
  title: 'DC supply',
  place: 'rack',
  duty: 'source',
  prefix: 'PS',
  settings: [
    number('voltage_V', 'Voltage', 'V', 24, 1, 60),
    number('min_V', 'Lowest voltage', 'V', 20.4, 1, 60),
    number('max_V', 'Highest voltage', 'V', 28.8, 1, 72),
    number('limit_A', 'Current limit', 'A', 2.5, 0.01, 40),
    choice('fed', 'Fed from', 'bus', { bus: 'the cabinet, not drawn', mains: 'mains' }),
  ],
  terminals: (s) => [
    term('plus', '+', 'dc+', 'left'),
    term('minus', '−', 'dc-', 'left'),
    ...(s.fed === 'mains'
      ? [term('L', 'L', 'L', 'left'), term('N', 'N', 'N', 'left'), term('PE', 'PE', 'PE', 'left')]
      : []),
  ],
  label: (s) => `${s.voltage_V} V DC, ${s.limit_A} A`,
  elements: (p) => [
    element(
      p,
      'supply',
      { p: 'plus', n: 'minus' },
      {
        v: p.power && p.live.powered ? p.s.voltage_V : 0,
        iLimit: p.s.limit_A,
      },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'supply']],
  caution: (s) =>
    s.fed === 'mains'
      ? 'Mains can kill. Isolate, lock, prove dead with a proved tester before touching these terminals.'
      : null,
  firstSign: () => 'its DC lamp lights; measure its voltage before landing the plus',
  loopFeed: (s) => ({ nominal_V: s.voltage_V, min_V: s.min_V, max_V: s.max_V, ohm: 0 }),
})
