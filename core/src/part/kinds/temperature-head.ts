import { element, term, definePart, type PlacedPart, type SolvedPart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

/** What the head measures its sensor with: volts behind a resistance, and a weak pull on the third lead. */
const EXCITE_V = 2.5
const EXCITE_OHM = 12_500
const PULL_OHM = 100_000
/** Its sensor side hangs on its own minus. */
const LEAK_OHM = 1e6
/** Resistances that a platinum sensor of 100 Ω can have, −200 to 850 °C. @see IEC 60751 */
const SENSOR_OHM = { least: 18, most: 391 }
/** More between the second and the third lead, and the third is open. */
const THIRD_LEAD_V = 0.05
const FAILED_mA = { high: 21, low: 3.6 }

/** Whether a sensor with all its leads is there. */
function sees(p: SolvedPart<{ readonly burnout: 'high' | 'low' }>): boolean {
  const across = p.volts('1', '2')
  const ohm = across / ((EXCITE_V - across) / EXCITE_OHM)
  return ohm >= SENSOR_OHM.least && ohm <= SENSOR_OHM.most && Math.abs(p.volts('3', '2')) < THIRD_LEAD_V
}
const sensing = (p: PlacedPart<{ readonly burnout: 'high' | 'low' }>) => {
  const inner = `${p.id}:inside`
  const r = (suffix: string, a: string, b: string, ohm: number) => ({
    id: p.id + suffix,
    type: 'resistor',
    nodes: { a, b },
    params: { r: ohm },
  })
  return [
    {
      id: `${p.id}~excite`,
      type: 'vsource',
      nodes: { p: inner, n: p.node('2') },
      params: { v: p.power ? EXCITE_V : 0 },
    },
    r('~1', inner, p.node('1'), EXCITE_OHM),
    r('~3', inner, p.node('3'), PULL_OHM),
    r('~leak', p.node('2'), p.node('minus'), LEAK_OHM),
  ]
}

/** A 2-wire transmitter in the sensor’s head: without its sensor it sends its failure current. */
export const temperatureHead = definePart({
  kind: 'temperature-head',
  title: 'Temperature head, 3-wire sensor',
  place: 'field',
  duty: 'transmitter',
  prefix: 'TT',
  wiredAs: 'twoWire',
  settings: [
    number('lift_V', 'Lift-off voltage', 'V', 9, 1, 40),
    number('max_V', 'Highest voltage', 'V', 36, 5, 60),
    choice('burnout', 'Sensor broken', 'high', { high: 'sends 21 mA', low: 'sends 3.6 mA' }),
  ],
  terminals: () => [
    term('1', '1', 'through', 'right'),
    term('2', '2', 'through', 'right'),
    term('3', '3', 'through', 'right'),
    term('plus', '+', 'loop+', 'right'),
    term('minus', '−', 'loop-', 'right'),
  ],
  label: (s) => `2-wire, ${s.lift_V} to ${s.max_V} V, Pt100`,
  elements: (p) => [
    element(
      p,
      'tx2',
      { plus: 'plus', minus: 'minus' },
      { i: p.live.current_mA / 1000, vLift: p.s.lift_V, vMax: p.s.max_V },
    ),
    ...sensing(p),
  ],
  react: (p) => (sees(p) ? {} : { current_mA: FAILED_mA[p.s.burnout] }),
  testPoints: () => [
    ['plus', 'minus', 'at the head'],
    ['1', '2', 'across the sensor'],
  ],
  firstSign: () => 'a current near its range; 21 or 3.6 mA says that a lead of the sensor is open',
  loopDevice: (s) => ({ lift_V: s.lift_V, max_V: s.max_V }),
  supplyLabel: (s) => ({ min_V: s.lift_V, max_V: s.max_V }),
})
