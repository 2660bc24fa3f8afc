import { element, term, definePart } from '../part-kind.ts'

/** A two-wire sensor read by its current. @see IEC 60947-5-6 */
export const namurSensor = definePart({
  kind: 'namur-sensor',
  title: 'NAMUR sensor',
  place: 'field',
  duty: 'sensor',
  prefix: 'ZS',
  readBy: 'namur-amplifier',
  settings: [],
  terminals: () => [term('plus', 'BN +', 'bn', 'right'), term('minus', 'BU −', 'bu', 'right')],
  actuate: () => ({ on: 'target present', off: 'no target' }),
  label: () => 'NAMUR, 8.2 V, 1.2 / 2.1 mA',
  elements: (p) => [element(p, 'namur', { plus: 'plus', minus: 'minus' }, { target: p.live.actuated })],
  testPoints: () => [['plus', 'minus', 'across the sensor']],
  output: () => ({ switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }),
})
