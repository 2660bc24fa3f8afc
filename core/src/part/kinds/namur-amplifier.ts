import { element, term, definePart } from '../part-kind.ts'
import { choice } from '../../quantity/setting.ts'

/** Feeds a NAMUR sensor, tells its state by the current, and closes an output; a broken wire opens it. */
export const namurAmplifier = definePart({
  kind: 'namur-amplifier',
  title: 'NAMUR amplifier',
  place: 'cabinet',
  duty: 'repeater',
  prefix: 'SA',
  settings: [
    choice('closes', 'Output closes', 'low', { low: 'when a target is there', high: 'when none is there' }),
  ],
  terminals: () => [
    term('plus', '1+', 'dc+', 'left'),
    term('minus', '2−', 'dc-', 'left'),
    term('a', '7', 'contact', 'right'),
    term('b', '8', 'contact', 'right'),
  ],
  label: (s) => `8.2 V, closes ${s.closes === 'low' ? 'on target' : 'without target'}`,
  elements: (p) => [
    p.power
      ? element(p, 'namurAmp', { plus: 'plus', minus: 'minus' })
      : element(p, 'resistor', { a: 'plus', b: 'minus' }, { r: 1000 }),
    element(p, 'contact', { a: 'a', b: 'b' }, { closed: p.live.closed }, '~out'),
  ],
  react: (p) => ({ closed: p.power && p.value(`amp(${p.id})`) === p.s.closes }),
  testPoints: () => [['plus', 'minus', 'sensor side']],
  firstSign: () => 'its lamp follows the target; the fault lamp is dark',
})
