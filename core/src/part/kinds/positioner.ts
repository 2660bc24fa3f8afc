import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** What an output card drives: a valve positioner that lives on its signal. */
export const positioner = definePart({
  kind: 'positioner',
  title: 'Positioner, 4-20 mA',
  place: 'field',
  duty: 'receiver',
  prefix: 'ZC',
  settings: [number('input_ohm', 'Input resistance', 'Ω', 410, 1, 1000)],
  terminals: () => [term('in', '+', 'loop+', 'right'), term('com', '−', 'loop-', 'right')],
  label: (s) => `${s.input_ohm} Ω`,
  elements: (p) => [
    element(p, 'receiver', { in: 'in', com: 'com' }, { r: p.s.input_ohm, rNominal: p.s.input_ohm }),
  ],
  testPoints: () => [['in', 'com', 'at the positioner']],
  caution: () => 'The valve strokes: keep hands clear of stem and yoke, and vent the air before they go in.',
  firstSign: () => 'the stem moves off its seat as the signal leaves 4 mA',
  loopLoad: (s) => ({ volts: 0, ohm: s.input_ohm }),
  receives: () => ({ into: 'in', out: 'com', channel: null }),
})
