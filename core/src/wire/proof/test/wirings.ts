import { NOTHING_WIRED, Wiring } from '../../../part/wiring.ts'
import { connect } from '../../connect/index.ts'

export type Parts = Record<string, [kind: string, settings?: Record<string, number | string | boolean>]>
const PS: Parts = { 'PS-1': ['supply'] }
const AI: Parts = { 'AI-1': ['analogue-input'] }
const FEEDING: Parts = { 'AI-1': ['analogue-input', { feeds: true }] }
const CABLE: Parts = { 'W-1': ['cable'] }
const THREE: Parts = { 'W-1': ['cable', { cores: 3 }] }
const TX: Parts = { 'PT-1': ['two-wire-transmitter'] }
const MAINS: Parts = { 'Q-1': ['mains'] }
const SINK: Parts = { 'DI-1': ['digital-input'] }
const SOURCE: Parts = { 'DI-1': ['digital-input', { mode: 'source' }] }
const RELAY: Parts = { 'K-1': ['relay'], 'VD-1': ['diode'] }
const sensor = (settings: NonNullable<Parts[string][1]> = {}): Parts => ({
  'ZS-1': ['proximity-three-wire', settings],
})

/** Parts whose correct wiring is known, of every kind that there is. */
export const CORRECT: readonly [title: string, parts: Parts][] = [
  ['2-wire', { ...TX, ...PS, ...AI }],
  ['2-wire, fuse', { ...TX, ...CABLE, 'F-1': ['fuse'], ...PS, ...AI }],
  ['2-wire, display', { ...TX, 'LI-1': ['loop-display'], ...PS, ...AI }],
  [
    '2-wire, everything between',
    {
      ...TX,
      'X-1': ['terminal-strip', { where: 'box' }],
      ...CABLE,
      'X-2': ['terminal-strip'],
      'F-1': ['fuse'],
      'LI-1': ['loop-display'],
      ...PS,
      ...AI,
    },
  ],
  ['2-wire on a card that feeds', { ...TX, ...CABLE, ...FEEDING }],
  ['2-wire, supply, a card that could feed', { ...TX, ...PS, ...FEEDING }],
  ['2-wire behind an isolator', { ...TX, ...CABLE, 'IS-1': ['isolator'], ...AI }],
  ['isolator and display', { ...TX, 'IS-1': ['isolator'], 'LI-1': ['loop-display'], ...AI }],
  [
    '2-wire behind a barrier',
    { 'PT-1': ['two-wire-transmitter', { lift_V: 10.5 }], ...CABLE, 'BR-1': ['barrier'], ...PS, ...AI },
  ],
  ['two receivers', { ...TX, ...PS, ...AI, 'AI-2': ['analogue-input', { shunt_ohm: 100, scaled_ohm: 100 }] }],
  ['converter, channel 1', { ...TX, ...CABLE, ...PS, 'DC-1': ['digital-converter'] }],
  ['converter, channel 2', { ...TX, ...PS, 'DC-1': ['digital-converter', { used: 2 }] }],
  ['supply on mains', { ...TX, 'PS-1': ['supply', { fed: 'mains' }], ...MAINS, ...AI }],
  ['2-wire through a surge protector', { ...TX, ...CABLE, 'SPD-1': ['surge-protector'], ...PS, ...AI }],
  ['2-wire, panel display', { ...TX, 'LI-1': ['panel-display'], ...PS, ...AI }],
  ['output card and positioner', { 'ZC-1': ['positioner'], ...CABLE, 'AO-1': ['analogue-output'] }],
  [
    'temperature head with its sensor',
    { 'TE-1': ['resistance-sensor'], 'TT-1': ['temperature-head'], ...CABLE, ...PS, ...AI },
  ],
  ['calibrator for a 2-wire', { 'CAL-1': ['calibrator-simulating'], ...PS, ...AI }],
  ['calibrator that drives', { 'CAL-1': ['calibrator-driving'], ...CABLE, ...AI }],
  ['push-button NC', { 'S-1': ['push-button', { fn: 'nc' }], ...CABLE, ...PS, ...SINK }],
  [
    'contact through a surge protector',
    { 'ZS-1': ['dry-contact'], ...CABLE, 'SPD-1': ['surge-protector'], ...PS, ...SINK },
  ],
  ['selector', { 'S-1': ['selector'], ...CABLE, ...PS, ...SOURCE }],
  [
    'contact drives a solenoid',
    { 'ZS-1': ['dry-contact'], ...PS, 'XV-1': ['solenoid', { suppressed: true }] },
  ],
  ['3-wire', { 'LT-1': ['three-wire-transmitter'], ...THREE, ...PS, ...AI }],
  ['3-wire, display', { 'LT-1': ['three-wire-transmitter'], ...PS, ...AI, 'LI-1': ['loop-display'] }],
  ['4-wire active, DC', { 'FT-1': ['four-wire-active'], ...CABLE, ...PS, ...AI }],
  [
    '4-wire active, mains, a card that feeds',
    { 'FT-1': ['four-wire-active', { fed: 'mains' }], ...MAINS, ...CABLE, ...FEEDING },
  ],
  [
    '4-wire active, display',
    { 'FT-1': ['four-wire-active', { fed: 'mains' }], ...MAINS, 'LI-1': ['loop-display'], ...AI },
  ],
  ['4-wire passive, outside supply', { 'FT-1': ['four-wire-passive'], ...CABLE, ...PS, ...AI }],
  [
    '4-wire passive, own feed',
    { 'FT-1': ['four-wire-passive', { fed: 'mains', jumper: true }], ...MAINS, ...CABLE, ...AI },
  ],
  ['4-wire passive, mains', { 'FT-1': ['four-wire-passive', { fed: 'mains' }], ...MAINS, ...PS, ...AI }],
  [
    '4-wire passive, own feed, converter',
    { 'FT-1': ['four-wire-passive', { jumper: true }], ...PS, 'DC-1': ['digital-converter'] },
  ],
  ['serial, a converter as its master', { 'TX-1': ['serial-sensor'], ...PS, 'DC-1': ['digital-converter'] }],
  ['serial', { 'TX-1': ['serial-sensor'], 'SP-1': ['serial-port'], ...PS }],
  [
    'serial, cable',
    { 'TX-1': ['serial-sensor'], 'W-1': ['cable', { cores: 4 }], 'SP-1': ['serial-port'], ...PS },
  ],
  ['PNP', { ...sensor(), ...THREE, ...PS, ...SINK }],
  [
    'PNP, box',
    { ...sensor(), 'X-1': ['terminal-strip', { where: 'box', ways: 3 }], ...THREE, ...PS, ...SINK },
  ],
  ['NPN', { ...sensor({ out: 'npn' }), ...PS, ...SOURCE }],
  ['NPN, fuse', { ...sensor({ out: 'npn' }), ...THREE, 'F-1': ['fuse'], ...PS, ...SOURCE }],
  ['NPN, relay', { ...sensor({ out: 'npn' }), ...RELAY, ...PS, ...SINK }],
  ['PNP, relay', { ...sensor(), ...RELAY, ...PS, ...SOURCE }],
  [
    'NPN, pull-up',
    { ...sensor({ out: 'npn' }), 'R-1': ['resistor', { r_ohm: 2200, power_W: 1 }], ...PS, ...SINK },
  ],
  ['push-pull, sourcing card', { ...sensor({ out: 'pp' }), ...PS, ...SOURCE }],
  ['PNP NC', { ...sensor({ fn: 'nc' }), ...PS, ...SINK }],
  [
    'NPN, a card for either',
    { ...sensor({ out: 'npn' }), ...PS, 'DI-1': ['digital-input', { mode: 'bidir' }] },
  ],
  ['PNP, lamp', { ...sensor(), 'H-1': ['lamp'], ...PS }],
  ['NPN, lamp', { ...sensor({ out: 'npn' }), 'H-1': ['lamp'], ...PS }],
  ['float', { 'LSH-1': ['float-switch'], ...CABLE, ...PS, ...SINK }],
  ['float NO', { 'LSH-1': ['float-switch', { fn: 'no' }], ...CABLE, ...PS, ...SOURCE }],
  ['2-wire sensor', { 'ZS-1': ['proximity-two-wire'], ...PS, ...SINK }],
  ['2-wire sensor, cable', { 'ZS-1': ['proximity-two-wire'], ...CABLE, ...PS, ...SINK }],
  ['NAMUR', { 'ZS-1': ['namur-sensor'], 'SA-1': ['namur-amplifier'], ...PS, ...SINK }],
  ['NAMUR, cable', { 'ZS-1': ['namur-sensor'], ...CABLE, 'SA-1': ['namur-amplifier'], ...PS, ...SOURCE }],
  ['reed', { 'ZS-1': ['cylinder-switch', { build: 'reed' }], ...PS, ...SINK }],
  ['cylinder', { 'ZS-1': ['cylinder-switch'], ...THREE, ...PS, ...SINK }],
  ['dry contact NC', { 'ZS-1': ['dry-contact', { fn: 'nc' }], ...CABLE, ...PS, ...SINK }],
  ['dry contact', { 'ZS-1': ['dry-contact'], ...PS, ...SOURCE }],
  ['dry contact, relay, lamp', { 'ZS-1': ['dry-contact'], 'K-1': ['relay'], 'H-1': ['lamp'], ...PS }],
  ['trip relay', { 'LC-1': ['trip-contact'], ...CABLE, ...PS, ...SINK }],
]

/** Their correct wiring. */
export function wiringOf(parts: Parts): Wiring {
  const c = connect({
    ...NOTHING_WIRED,
    parts: Object.fromEntries(
      Object.entries(parts).map(([id, [kind, settings]]) => [id, { kind, settings: settings ?? {} }]),
    ),
  })
  if (c.kind !== 'wired') throw new Error(c.says)
  return Wiring.parse(c.wiring)
}
