import { element, term, type PartKind } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** A transmitter that lives on its own 4-20 mA loop. */
export const twoWireTransmitter: PartKind = {
  kind: 'two-wire-transmitter',
  title: '2-wire transmitter',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  settings: [
    number('lift_V', 'Lift-off voltage', 'V', 12, 1, 40),
    number('max_V', 'Highest voltage', 'V', 42, 5, 60),
    flag('test', 'Test terminals', false),
    choice('reverse', 'Wired backwards it', 'block', {
      block: 'passes nothing',
      clamp: 'clamps like a diode',
      bridge: 'works either way',
    }),
  ],
  terminals: (s) => [
    term('plus', '+', 'loop+', 'right'),
    term('minus', '−', 'loop-', 'right'),
    ...(s.flag('test') ? [term('test', 'T', 'through', 'right')] : []),
  ],
  label: (s) => `2-wire, ${s.num('lift_V')} to ${s.num('max_V')} V`,
  elements: (p) => [
    element(
      p,
      'tx2',
      { plus: 'plus', minus: 'minus', ...(p.s.flag('test') ? { test: 'test' } : {}) },
      {
        i: p.live.current_mA / 1000,
        vLift: p.s.num('lift_V'),
        vMax: p.s.num('max_V'),
        reverse: p.s.word('reverse'),
      },
    ),
  ],
  testPoints: (s) => [
    ['plus', 'minus', 'at the transmitter'],
    ...(s.flag('test') ? ([['test', 'minus', 'across its test terminals']] as const) : []),
  ],
  firstSign: () => 'its display shows the measured value after its start-up time',
}
