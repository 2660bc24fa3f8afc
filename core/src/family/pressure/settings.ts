import { unless, when } from '../../quantity/condition.ts'
import { choice, number, onlyWhen, text } from '../../quantity/setting.ts'
import { group, type EntriesOf } from '../family.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { VESSEL_ENTRIES } from '../vessel.ts'
import { TYPICAL_ACCURACY } from './accuracy.ts'
import { GRAVITY_M_S2 } from './hydrostatic.ts'

const duty = (...kinds: string[]) => when('duty', ...kinds)
const isLevel = duty('open', 'dry', 'wet', 'seals')
const isTapped = duty('open', 'dry', 'wet', 'seals', 'interface')
const isPlain = unless('duty', 'open', 'dry', 'wet', 'seals', 'interface')
const underStatic = unless('duty', 'gauge', 'absolute', 'open')

/** Which water a column is counted in: there is no bare mmH2O. */
export const COLUMNS = {
  conv: 'conventional',
  '4C': 'at 4 °C',
  '60F': 'at 60 °F',
  '20C': 'at 20 °C',
} as const

export const GROUPS = [
  group('Duty and range', [
    choice('duty', 'Measures', 'gauge', {
      gauge: 'gauge pressure',
      absolute: 'absolute pressure',
      differential: 'differential pressure',
      open: 'level of an open tank',
      dry: 'level, closed tank, dry leg',
      wet: 'level, closed tank, wet leg',
      seals: 'level, two remote seals',
      interface: 'interface of two liquids',
    }),
    number('lrv_kPa', 'Pressure at 4 mA (at the tap)', 'kPa', 0, -1e5, 1e6, isPlain),
    number('urv_kPa', 'Pressure at 20 mA (at the tap)', 'kPa', 100, -1e5, 1e6, isPlain),
    number('below_m', 'Transmitter below the tap', 'm', 0, -100, 100, duty('gauge', 'absolute')),
    number('lineDensity', 'Liquid in the line (0: gas)', 'kg/m3', 1000, 0, 20_000, duty('gauge', 'absolute')),
    number('zero_m', 'Level at 0 %, elevation', 'm', 0.2, -100, 200, isTapped),
    number('full_m', 'Level at 100 %, elevation', 'm', 2.8, -100, 200, isTapped),
    number('lowerTap_m', 'Lower tap, elevation', 'm', 0.2, -100, 200, isTapped),
    number('upperTap_m', 'Upper tap, elevation', 'm', 3, -100, 200, duty('dry', 'wet', 'seals', 'interface')),
    number('transmitter_m', 'Transmitter, elevation', 'm', -0.5, -100, 200, isTapped),
    number('density', 'Density, lower liquid', 'kg/m3', 1000, 1, 20_000, isTapped),
    number('densityNow', 'Density there now', 'kg/m3', 1000, 1, 20_000, isLevel),
    number('upperDensity', 'Density, upper liquid', 'kg/m3', 860, 1, 20_000, duty('interface')),
    number('vapour', 'Density of the vapour', 'kg/m3', 0, 0, 500, duty('dry', 'wet', 'seals')),
    number('lineFill', 'Fill of the high-side line', 'kg/m3', 1000, 0, 20_000, duty('open', 'dry', 'wet')),
    number(
      'fill',
      'Fill, low leg (or capillaries)',
      'kg/m3',
      960,
      0,
      20_000,
      duty('wet', 'seals', 'interface'),
    ),
    number('gravity', 'Local gravity', 'm/s2', GRAVITY_M_S2, 9.7, 9.9, isTapped),
    number('damping_s', 'Damping', 's', 1, 0, 100),
    choice('failTo', 'On a fault', 'up', { up: 'up, 21 mA or more', down: 'down, 3.6 mA or less' }),
    choice('shows', 'Display shows', 'value', {
      value: 'the value',
      percent: 'percent',
      pressure: 'the pressure',
      none: 'it has none',
    }),
  ]),
  group('Cell and accuracy', [
    number('url_kPa', 'Upper limit of the cell', 'kPa', 200, 0.001, 1e6),
    number('acc_a', 'Accuracy a, % of span (up to the knee)', '', TYPICAL_ACCURACY.a, 0, 10),
    number('acc_td0', 'Knee, turndown', '', TYPICAL_ACCURACY.td0, 1, 500),
    number('acc_b', 'Beyond it: b, % of span', '', TYPICAL_ACCURACY.b, 0, 10),
    number('acc_c', 'and c per turndown', '', TYPICAL_ACCURACY.c, 0, 10),
    number('line_kPa', 'Line pressure', 'kPa', 0, 0, 1e6, underStatic),
    number('static_pct', 'Zero by static, % (of the cell’s limit)', '', 0.05, 0, 10, underStatic),
    number('staticPer_kPa', 'per', 'kPa', 7000, 1, 1e6, underStatic),
    choice('columnTx', 'Water in transmitter (its water columns)', 'none', { none: 'not used', ...COLUMNS }),
    choice('columnCal', 'Water on calibrator (its water columns)', 'none', { none: 'not used', ...COLUMNS }),
  ]),
  group('Manifold', [
    choice('manifold', 'Manifold', 'none', {
      none: 'none',
      'three-valve': 'three valves and two vents',
      'five-valve': 'five valves',
    }),
    text(
      'sequence',
      'Order to be checked, from service: close L; open E',
      '',
      undefined,
      unless('manifold', 'none'),
    ),
  ]),
  firstReadingGroup('kPa', { standard: 0, min: -1e6, max: 1e6 }),
  group('Tank', onlyWhen(isLevel, VESSEL_ENTRIES)),
] as const
export type Entries = EntriesOf<typeof GROUPS>
