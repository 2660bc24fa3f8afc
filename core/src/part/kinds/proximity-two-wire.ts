import { element, term, definePart } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'

/** A two-wire DC sensor: it leaks a little when open and drops a few volts when closed. */
export const proximityTwoWire = definePart({
  kind: 'proximity-two-wire',
  title: '2-wire sensor',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  settings: [
    choice('fn', 'Function', 'no', { no: 'NO, conducts when present', nc: 'NC, conducts when absent' }),
    number('drop_V', 'Drops, conducting', 'V', 4, 0.5, 10),
    number('leak_mA', 'Leaks, open', 'mA', 0.8, 0, 5),
    number('least_mA', 'Needs at least', 'mA', 3, 0, 20),
    number('load_mA', 'Carries', 'mA', 100, 5, 500),
    flag('either', 'Polarity does not matter', false),
  ],
  terminals: () => [term('plus', 'BN +', 'bn', 'right'), term('minus', 'BU −', 'bu', 'right')],
  actuate: () => ({ on: 'target present', off: 'no target' }),
  label: (s) => `2-wire ${s.fn.toUpperCase()}, leaks ${s.leak_mA} mA`,
  elements: (p) => [
    element(
      p,
      'sensor2',
      { plus: 'plus', minus: 'minus' },
      {
        fn: p.s.fn,
        target: p.live.actuated,
        vDrop: p.s.drop_V,
        iLeak: p.s.leak_mA / 1000,
        iMin: p.s.least_mA / 1000,
        iMax: p.s.load_mA / 1000,
        iSc: (p.s.load_mA * 1.5) / 1000,
        bridge: p.s.either,
      },
    ),
  ],
  testPoints: () => [['plus', 'minus', 'across the sensor']],
  firstSign: () => 'its lamp follows the target',
  output: (s) => ({
    switching: 'contact',
    most_A: s.load_mA / 1000,
    leak_A: s.leak_mA / 1000,
    least_A: s.least_mA / 1000,
  }),
})
