import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** A platinum sensor with three leads, or the decade that stands in for it. */
export const resistanceSensor = definePart({
  kind: 'resistance-sensor',
  title: 'Resistance sensor, or decade',
  place: 'field',
  duty: 'loose',
  prefix: 'TE',
  readBy: 'temperature-head',
  settings: [number('r_ohm', 'Resistance now', 'Ω', 109.73, 0, 100_000)],
  terminals: () => [
    term('1', '1 WH', 'through', 'right'),
    term('2', '2 RD', 'through', 'right'),
    term('3', '3 RD', 'through', 'right'),
  ],
  label: (s) => `${s.r_ohm} Ω, three leads`,
  elements: (p) => [
    element(p, 'resistor', { a: '1', b: '2' }, { r: p.s.r_ohm }),
    element(p, 'resistor', { a: '2', b: '3' }, { r: 0.01 }, '~lead'),
  ],
  testPoints: () => [['1', '2', 'across the sensor']],
  kit: ['decade with its certificate in date'],
  caution: () => 'Hot or cold pipes burn, and a pocket under pressure is never opened for its sensor.',
})
