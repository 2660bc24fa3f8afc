import { element, term, definePart } from '../part-kind.ts'
import { number } from '../../quantity/setting.ts'

/** Feeds the field loop and repeats its current on a separate side. */
export const isolator = definePart({
  kind: 'isolator',
  title: 'Isolator, feeding',
  place: 'cabinet',
  duty: 'repeater',
  prefix: 'IS',
  settings: [
    number('field_V', 'Field voltage', 'V', 18, 5, 30),
    number('field_ohm', 'Field source resistance', 'Ω', 50, 0.1, 1000),
    number('compliance_V', 'Output drives up to', 'V', 12, 2, 30),
  ],
  terminals: () => [
    term('fp', '1+', 'dc+', 'left'),
    term('fn', '2−', 'loop-', 'left'),
    term('op', '3+', 'loop+', 'right'),
    term('on', '4−', 'loop-', 'right'),
  ],
  label: (s) => `feeds ${s.field_V} V, output up to ${Math.floor(s.compliance_V / 0.0225)} Ω`,
  elements: (p) => [
    element(
      p,
      'isolator',
      { fp: 'fp', fn: 'fn', op: 'op', on: 'on' },
      {
        vField: p.power ? p.s.field_V : 0,
        rField: p.s.field_ohm,
        vCompliance: p.s.compliance_V,
      },
    ),
  ],
  testPoints: () => [
    ['fp', 'fn', 'field side'],
    ['op', 'on', 'output side'],
  ],
  firstSign: () => 'its power lamp lights',
  loopFeed: (s) => ({ nominal_V: s.field_V, min_V: s.field_V, max_V: s.field_V, ohm: s.field_ohm }),
})
