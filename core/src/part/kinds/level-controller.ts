import { GROUND } from '../../circuit/netlist.ts'
import { relayState, valueOf, type RelayPlan } from '../../signal/relay-plan.ts'
import { element, term, definePart, type PlacedPart, type SolvedPart, type Terminal } from '../part-kind.ts'
import { choice, flag, number } from '../../quantity/setting.ts'
import { when } from '../../quantity/condition.ts'
import {
  powerCaution,
  powerElements,
  powerReacts,
  powerSettings,
  powerTerminals,
  powerTestPoints,
} from './four-wire-power.ts'
import { LINE_BIAS, REST_V } from './serial-line.ts'

/** An isolated side still leaks a little to the cabinet’s 0 V. */
const LEAK_OHM = 1e7
/** What a controller feeds a bus sensor with at the most, A. */
const FEED_LIMIT_A = 0.1
/** Its output stays within what says “failed low” and “failed high”. @see NAMUR NE 43 */
const OUTPUT_mA = { least: 3.6, most: 21 }
const RELAYS = [1, 2, 3, 4] as const

interface Made {
  readonly sensor: string
  readonly relays: number
}
/** The relays that it has, 1 first. */
export const relaysOfController = (s: Pick<Made, 'relays'>): number[] => RELAYS.filter((k) => k <= s.relays)

/** What the sensor tells it now, A: over the loop, or over the line; null while nothing comes. */
function heard_A(p: SolvedPart<Made>): number | null {
  if (p.s.sensor === 'serial')
    return p.sent_mA !== null && p.volts('A', 'B') >= REST_V ? p.sent_mA / 1000 : null
  const shown = p.value(`shown(${p.id}~in)`)
  return typeof shown === 'number' ? shown : null
}

/** The relay of a plan as the element that moves it: what it switches on, in numbers. */
function relayElement(p: PlacedPart<Made>, k: number, plan: RelayPlan | undefined) {
  const { relays } = p
  const x = relays ? valueOf(relays, p.live.current_mA / 1000) : null
  const runs = plan !== undefined && p.live.powered && p.power
  return element(
    p,
    'driven-contact',
    { com: `k${k}com`, no: `k${k}no`, nc: `k${k}nc` },
    {
      // Either way from the value alone; where that differs it stays as it was.
      off: runs ? relayState(plan, x, false) : false,
      on: runs ? relayState(plan, x, true) : false,
      startUp: plan?.startUp ?? false,
    },
    `~k${k}`,
  )
}

function sensorTerminals(s: Made): Terminal[] {
  return [
    term('sp', 'S+', 'dc+', 'left'),
    ...(s.sensor === 'twoWire' ? [term('in', 'S in', 'loop+', 'left')] : []),
    term('sn', 'S−', 'dc-', 'left'),
    ...(s.sensor === 'serial' ? [term('A', 'A', 'A', 'left'), term('B', 'B', 'B', 'left')] : []),
  ]
}

/** Takes a sensor’s signal, shows it, hands it on as 4-20 mA and moves relays by the loop’s plan. */
export const levelController = definePart({
  kind: 'level-controller',
  title: 'Controller with relays',
  place: 'cabinet',
  duty: 'controller',
  prefix: 'LC',
  wiredAs: 'passive',
  line: 'master',
  settings: [
    choice('sensor', 'Its sensor', 'twoWire', { twoWire: '2-wire, 4-20 mA', serial: 'on a serial line' }),
    choice('shows', 'Display shows', 'level', { level: 'level', distance: 'distance' }),
    number('relays', 'Relays', '', 2, 1, RELAYS.length),
    number('input_ohm', 'Input resistance', 'Ω', 100, 1, 500, when('sensor', 'twoWire')),
    number('lift_V', 'Output needs', 'V', 8, 1, 30),
    number('max_V', 'Highest at the output', 'V', 36, 5, 60),
    flag('aux', 'Has a 24 V for its own output', true),
    flag('jumper', 'Feed the output from it (jumper)', false, when('aux', true)),
    ...powerSettings,
  ],
  terminals: (s) => [
    ...sensorTerminals(s),
    term('plus', 'I+', 'loop+', 'right'),
    term('minus', 'I−', 'loop-', 'right'),
    ...(s.aux ? [term('auxP', '24+', 'dc+', 'right'), term('auxN', '24−', 'dc-', 'right')] : []),
    ...relaysOfController(s).flatMap((k) => [
      term(`k${k}com`, `K${k} com`, 'contact', 'right'),
      term(`k${k}no`, `K${k} NO`, 'contact', 'right'),
      term(`k${k}nc`, `K${k} NC`, 'contact', 'right'),
    ]),
    ...powerTerminals(s, 'left'),
  ],
  label: (s) => `${s.relays} ${s.relays === 1 ? 'relay' : 'relays'}, passive output, shows ${s.shows}`,
  elements: (p) => {
    const runs = p.power && p.live.powered
    const feed = { v: runs ? 24 : 0, rs: 20, iLimit: FEED_LIMIT_A }
    return [
      p.s.sensor === 'serial'
        ? element(p, 'supply', { p: 'sp', n: 'sn' }, { v: feed.v, iLimit: FEED_LIMIT_A }, '~in')
        : element(
            p,
            'ai',
            { in: 'in', com: 'sn', ...(p.wired('sp') ? { sup: 'sp' } : {}) },
            { r: p.s.input_ohm, rNominal: p.s.input_ohm, ...feed },
            '~in',
          ),
      ...(p.s.sensor === 'serial' ? LINE_BIAS(p, runs, 'sn') : []),
      {
        id: `${p.id}~leak`,
        type: 'resistor',
        nodes: { a: p.node('sn'), b: GROUND },
        params: { r: LEAK_OHM },
      },
      // Left free it is no part of any circuit.
      ...(p.wired('plus') || p.wired('minus')
        ? [
            element(
              p,
              'tx4passive',
              { plus: 'plus', minus: 'minus', ...(p.s.aux ? { auxP: 'auxP', auxN: 'auxN' } : {}) },
              { i: p.live.current_mA / 1000, vLift: p.s.lift_V, vMax: p.s.max_V, powered: runs },
            ),
          ]
        : []),
      ...relaysOfController(p.s).map((k) => relayElement(p, k, p.relays?.plans[k - 1])),
      ...powerElements(p),
    ]
  },
  react: (p) => {
    const heard = (heard_A(p) ?? 0) * 1000
    return {
      current_mA: Math.min(OUTPUT_mA.most, Math.max(OUTPUT_mA.least, heard)),
      ...powerReacts(p),
    }
  },
  testPoints: (s) => [
    s.sensor === 'serial' ? ['sp', 'sn', 'its sensor’s supply'] : ['in', 'sn', 'across its input'],
    ...(s.sensor === 'serial' ? ([['A', 'B', 'serial line at rest']] as const) : []),
    ['plus', 'minus', 'at its output'],
    ...(s.aux ? ([['auxP', 'auxN', 'its own 24 V']] as const) : []),
    ...powerTestPoints(s),
  ],
  caution: powerCaution,
  firstSign: (s) =>
    `its display shows the ${s.shows}; the output reads nothing until something feeds it, and its relays move only by the plan`,
  loopDevice: (s) => ({ lift_V: s.lift_V, max_V: s.max_V }),
  receives: (s) => (s.sensor === 'twoWire' ? { into: 'in', out: 'sn', channel: null } : null),
  ownFeed: (s) => (!s.aux ? 'none' : s.jumper ? 'jumpered' : 'possible'),
  relays: (s) =>
    relaysOfController(s).map((k) => ({ element: `~k${k}`, com: `k${k}com`, no: `k${k}no`, nc: `k${k}nc` })),
})
