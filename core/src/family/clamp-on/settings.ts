import { NAMED_GASES } from '../../media/fluid.ts'
import { MATERIAL_TITLES } from '../../media/materials-table.ts'
import { PIPE_SIZES } from '../../media/pipe-sizes-table.ts'
import { TYPICAL_LIQUIDS } from '../../media/typical-liquids.ts'
import { unless, when } from '../../quantity/condition.ts'
import { positiveListProblem } from '../../quantity/number-list.ts'
import { asOptions, choice, flag, number, text, titlesOf } from '../../quantity/setting.ts'
import { CLASS_AND_RAIL, WEDGE } from '../../sensor/kinds/clamp-on-pair.ts'
import { CHANNEL_SETTINGS } from '../channel-plan.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { DISTURBANCES } from './advice.ts'
import { mixtureOf } from './mixture.ts'

const by = (way: string) => when('by', way)
const isGas = when('fluid', 'mix', ...Object.keys(NAMED_GASES))
const materials = MATERIAL_TITLES
const sizes: Record<string, string> = Object.fromEntries(
  PIPE_SIZES.map((p) => [p.nps, `${p.nps} (DN ${p.dn})`]),
)
const schedules = [...new Set(PIPE_SIZES.flatMap((p) => p.schedules.map(([name]) => name)))]

export const GROUPS = [
  group('Site', [
    text('site', 'Name of the site in the device', ''),
    number('siteMost', 'Longest name (characters it takes)', '', 8, 1, 80),
    choice('path', 'Channel of the device', '1', { '1': 'channel or path 1', '2': 'channel or path 2' }),
  ]),
  group('Pipe', [
    choice('by', 'Pipe is known by', 'table', {
      table: 'size and schedule',
      od: 'outside diameter and wall',
      tape: 'tape round it and wall',
    }),
    choice('nps', 'Size (NPS)', '12', sizes, by('table')),
    choice('schedule', 'Schedule', 'STD', asOptions(schedules), by('table')),
    number('od_mm', 'Outside diameter', 'mm', 323.8, 10, 3000, by('od')),
    number('circumference_mm', 'Circumference', 'mm', 1018, 30, 10_000, by('tape')),
    number('tape_mm', 'Tape thickness (0 for a diameter tape)', 'mm', 0.3, 0, 3, by('tape')),
    number('paint_mm', 'Paint', 'mm', 0.2, 0, 5, by('tape')),
    number('wall_mm', 'Wall', 'mm', 9.53, 0.3, 200, unless('by', 'table')),
    text(
      'readings',
      'Wall readings round the pipe, mm (win over the wall)',
      '',
      positiveListProblem,
      unless('by', 'table'),
    ),
    choice('material', 'Pipe material', 'carbon_steel', materials),
    choice('liner', 'Liner', 'none', { none: 'none', ...materials }),
    number('liner_mm', 'Liner thickness', 'mm', 6, 0.1, 150, unless('liner', 'none')),
    number('filmLayers', 'Layers of damping film (0: none)', '', 0, 0, 20, isGas),
    number('film_mm', 'Thickness of all layers', 'mm', 1, 0.1, 20, isGas),
    flag('film', 'The film lies under the sensors too', false, isGas),
  ]),
  group('Fluid', [
    choice('fluid', 'Fluid', 'water', {
      water: 'water',
      seawater: 'seawater or reject',
      brine: 'salt brine (typical)',
      own: 'own liquid',
      mix: 'own gas mixture',
      ammonia: 'ammonia, liquid (typical)',
      ...titlesOf(TYPICAL_LIQUIDS, (l) => `${l.title} (typical)`),
      ...titlesOf(NAMED_GASES, (g) => `${g.title} (gas)`),
    }),
    number('salinity', 'Practical salinity', '', 35, 0, 110, when('fluid', 'seawater')),
    number('salt_pct', 'Salt by mass', '%', 10, 0, 26.3, when('fluid', 'brine')),
    text(
      'mixture',
      'Components and mole %, as methane 91.45; nitrogen 1.40',
      '',
      (list) => {
        const m = mixtureOf(list)
        return typeof m === 'string' ? m : null
      },
      when('fluid', 'mix'),
    ),
    number('own_density', 'Density', 'kg/m3', 1000, 1, 5000, when('fluid', 'own')),
    number('own_speed', 'Sound speed', 'm/s', 1480, 100, 4000, when('fluid', 'own')),
    number('own_viscosity', 'Viscosity, mPa·s', '', 1, 0.005, 100_000, when('fluid', 'own')),
    choice('speedBy', 'Sound speed is', 'measured', {
      measured: 'measured by the meter',
      typed: 'typed by hand',
    }),
    number('t_C', 'Temperature', 'degC', 15, -40, 200),
    number('gauge_kPa', 'Gauge pressure', 'kPa', 300, -100, 100_000),
    number('flow_m3h', 'Flow at full scale, actual', 'm3/h', 500, 0.001, 1e6),
  ]),
  group('Place', [
    choice('disturbance', 'Nearest upstream', 'bend', titlesOf(DISTURBANCES)),
    choice('second', 'Second disturbance', 'none', titlesOf(DISTURBANCES)),
    number('upstream_D', 'Straight upstream (diameters)', '', 12, 0, 500),
    number('downstream_D', 'Straight downstream (diameters)', '', 5, 0, 500),
    choice('paths', 'Paths', '1', { '1': 'one', '2': 'two, 90° apart' }),
    choice('roughness', 'Inside surface', 'used', {
      smooth: 'drawn or plastic',
      new: 'new steel',
      used: 'used steel',
      mortar: 'mortar',
    }),
  ]),
  group('Sensors', [
    choice('traverses', 'Traverses', 'advised', {
      advised: 'as advised',
      '1': '1, direct',
      '2': '2, reflect',
      '3': '3',
      '4': '4',
    }),
    text('serialA', 'Serial of the upstream sensor', ''),
    text('serialB', 'Serial of the downstream sensor', ''),
    text('serialA2', 'Serial upstream, path 2', '', undefined, when('paths', '2')),
    text('serialB2', 'Serial downstream, path 2', '', undefined, when('paths', '2')),
    text('calibration', 'Calibration number of the pair', ''),
    number('frequency_MHz', 'Frequency, MHz (0: not told)', '', 0, 0, 10),
    ...WEDGE,
    number('length_mm', 'Length along the pipe (0: usual)', 'mm', 0, 0, 500),
    ...CLASS_AND_RAIL,
    number('cable_m', 'Cable to the sensors (0: not told)', 'm', 0, 0, 500),
    choice('port', 'Plugged in at', 'untold', { untold: 'not told', A: 'port A', B: 'port B' }),
    flag('attenuating', 'Bubbles, solids, thick oil or a scaled wall', false),
  ]),
  group('Reading', [
    number('damping_s', 'Damping', 's', 3, 0, 200),
    number('cutoff_m_s', 'Low cutoff (both directions)', 'm/s', 0.02, 0, 1),
    choice('bidirectional', 'Flow counts', 'no', { no: 'forward only', yes: 'both ways' }),
  ]),
  group('Outputs and inputs', CHANNEL_SETTINGS),
  group('After start-up', [
    number('speedRead_m_s', 'Sound speed shown (0: not yet)', 'm/s', 0, 0, 6000),
    number('tMean_us', 'Mean transit time read, µs (0: not yet)', '', 0, 0, 100_000),
    number('signal_pct', 'Signal, % (0: not yet)', '', 0, 0, 100),
    number('moved_pct', 'Signal after moving, % (0: not moved)', '', 0, 0, 100),
    number('snr_dB', 'Signal to noise, dB (0: not yet)', '', 0, 0, 120),
    number('gain_dB', 'Gain left in reserve, dB (0: not yet)', '', 0, 0, 120),
    number('accepted_pct', 'Shots accepted, % (0: not yet)', '', 0, 0, 100),
    number('zero_m_s', 'Velocity, flow stopped', 'm/s', 0, -10, 10),
    number('v1_m_s', 'Path 1 reads', 'm/s', 0, -50, 50, when('paths', '2')),
    number('v2_m_s', 'Path 2 reads', 'm/s', 0, -50, 50, when('paths', '2')),
  ]),
  firstReadingGroup('m3/h', { standard: 0, min: -1e7, max: 1e7 }),
] as const
export type Entries = EntriesOf<typeof GROUPS>
