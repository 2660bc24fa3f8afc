import { element, term, definePart } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'
import { unless } from '../../quantity/condition.ts'

/** A DC motor; it may be the one that moves what the loop measures. */
export const motor = definePart({
  kind: 'motor',
  title: 'Motor, DC',
  place: 'field',
  duty: 'load',
  prefix: 'M',
  settings: [
    number('motor_V', 'Voltage', 'V', 24, 3, 60),
    number('motor_W', 'Power', 'W', 20, 0.1, 500),
    choice('moves', 'While it runs, the loop’s value', 'nothing', {
      nothing: 'stays as it is',
      up: 'rises',
      down: 'falls',
    }),
    number('speed_pct', 'by, of span', '%/s', 5, 0.01, 100, unless('moves', 'nothing')),
    flag('suppressed', 'Suppression built in', true),
  ],
  terminals: () => [term('a1', 'M+', 'signal', 'right'), term('a2', 'M−', 'signal', 'right')],
  label: (s) => `${s.motor_V} V, ${s.motor_W} W`,
  elements: (p) => [element(p, 'resistor', { a: 'a1', b: 'a2' }, { r: p.s.motor_V ** 2 / p.s.motor_W })],
  testPoints: () => [['a1', 'a2', 'across the motor']],
  caution: () =>
    'It starts without a warning. Isolate, lock, try to start it, and keep hands out of what it moves.',
  firstSign: () => 'it turns the way it should; if not, its two wires are exchanged',
  switchedLoad: (s) => ({ volts: s.motor_V, amps: s.motor_W / s.motor_V, coil: true }),
  moves: (s) => (s.moves === 'nothing' ? null : { up: s.moves === 'up', perSecond: s.speed_pct / 100 }),
})
