import { element, term, definePart } from '../part-kind.ts'
import { when } from '../../quantity/condition.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** Volts from which it works: a display that is lit by the loop takes its own on top. */
const liftOf = (s: { readonly lift_V: number; readonly lit: boolean; readonly lit_V: number }): number =>
  s.lift_V + (s.lit ? s.lit_V : 0)

/** A transmitter that lives on its own 4-20 mA loop. */
export const twoWireTransmitter = definePart({
  kind: 'two-wire-transmitter',
  title: '2-wire transmitter',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TX',
  wiredAs: 'twoWire',
  settings: [
    number('lift_V', 'Lift-off voltage', 'V', 12, 1, 40),
    number('max_V', 'Highest voltage', 'V', 42, 5, 60),
    flag('test', 'Test terminals', false),
    flag('lit', 'Display lit by the loop', false),
    number('lit_V', 'Its light takes', 'V', 1, 0, 5, when('lit', true)),
    choice('reverse', 'Wired backwards it', 'block', {
      block: 'passes nothing',
      clamp: 'clamps like a diode',
      bridge: 'works either way',
    }),
  ],
  terminals: (s) => [
    term('plus', '+', 'loop+', 'right'),
    term('minus', '−', 'loop-', 'right'),
    ...(s.test ? [term('test', 'T', 'through', 'right')] : []),
  ],
  label: (s) => `2-wire, ${liftOf(s)} to ${s.max_V} V`,
  elements: (p) => [
    element(
      p,
      'tx2',
      { plus: 'plus', minus: 'minus', ...(p.s.test ? { test: 'test' } : {}) },
      {
        i: p.live.current_mA / 1000,
        vLift: liftOf(p.s),
        vMax: p.s.max_V,
        reverse: p.s.reverse,
      },
    ),
  ],
  testPoints: (s) => [
    ['plus', 'minus', 'at the transmitter'],
    ...(s.test ? ([['test', 'minus', 'across its test terminals']] as const) : []),
  ],
  firstSign: () => 'its display shows the measured value after its start-up time',
  loopDevice: (s, lit) => ({ lift_V: liftOf({ ...s, lit: s.lit || lit }), max_V: s.max_V }),
  supplyLabel: (s) => ({ min_V: liftOf(s), max_V: s.max_V }),
})
