import { term, definePart } from '../part-kind.ts'
import { LINE_BIAS } from './serial-line.ts'

/** The controller's port of a two-wire serial line. */
export const serialPort = definePart({
  kind: 'serial-port',
  title: 'Serial port, two-wire',
  place: 'rack',
  duty: 'link',
  prefix: 'SP',
  line: 'master',
  settings: [],
  terminals: () => [
    term('A', 'A', 'A', 'left'),
    term('B', 'B', 'B', 'left'),
    term('G', '0 V', 'dc-', 'left'),
  ],
  label: () => 'holds the line at rest',
  elements: (p) => LINE_BIAS(p, p.power, 'G'),
  testPoints: () => [['A', 'B', 'serial line at rest']],
  firstSign: () => 'its receive lamp blinks with every answer',
})
