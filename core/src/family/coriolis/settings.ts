import { unless, when } from '../../quantity/condition.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { asOptions, choice, flag, number, text, titlesOf } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { ROLES, type Role } from './roles.ts'

/** A constant of the tag; two that are joined in one text are judged with their split, not here. */
const constantProblem = (typed: string): string | null => {
  const t = typed.trim()
  if (t === '' || /^[\d.,]+$/.test(t)) return null
  const n = parseNumber(t)
  return n.kind === 'refused' ? n.says : null
}
/** One constant: what this tag calls it, and its texts side by side, every decimal kept. */
const row = <const R extends Role>(role: R) => {
  const title = ROLES[role].title
  return [
    text(`${role}_name`, `${title}: its name on this tag`, ''),
    text(`${role}_certificate`, `${title}, certificate`, '', constantProblem),
    text(`${role}_tag`, `${title}, tag`, '', constantProblem),
    text(`${role}_device`, `${title}, device`, '', constantProblem),
  ] as const
}
const joined = unless('joined', 'none')
const lost = when('memoryLost', true)
const otherSource = unless('source', 'mass')

/** Units in which devices ask for the bore: the trap of a lost memory. */
export const BORE_UNITS = { mm: 'mm', cm: 'cm', m: 'm', in: 'inch' } as const
export const SOURCES = {
  mass: 'mass flow',
  volume: 'volume flow',
  density: 'density',
  temperature: 'temperature',
} as const
export const TOTALS = {
  forward: 'mass, forward',
  reverse: 'mass, reverse',
  net: 'mass, forward less reverse',
  volume: 'volume, forward',
  off: 'nothing, off',
} as const

export const GROUPS = [
  group(
    'Characterization: name on the tag, then certificate, tag and device',
    [
      ...row('flowFactor'),
      ...row('flowTemperature'),
      ...row('lightPeriod'),
      ...row('lightDensity'),
      ...row('heavyPeriod'),
      ...row('heavyDensity'),
      ...row('densityTemperature'),
    ],
    4,
  ),
  group('Two constants in one text', [
    choice('joined', 'Written as one (on this tag)', 'none', { none: 'none', ...titlesOf(ROLES) }),
    choice('joinedWith', 'and behind it (in the same text)', 'flowTemperature', titlesOf(ROLES), joined),
    number('splitAfter', 'Second begins after (so many characters)', '', 6, 1, 40, joined),
  ]),
  group(
    'Further constants of this tag',
    [
      ...row('densityFlow'),
      ...row('flowPressure'),
      ...row('densityPressure'),
      ...row('driveFrequency'),
      ...row('other'),
    ],
    4,
  ),
  group('Sensor and reading', [
    choice('densityUnit', 'Unit of the densities', 'g/cm3', { 'g/cm3': 'g/cm³', 'kg/m3': 'kg/m³' }),
    number('bore_mm', 'Tube bore', 'mm', 25, 0.0001, 2000),
    flag('memoryLost', 'The sensor’s memory is lost', false),
    choice('direction', 'Flow direction', 'forward', {
      forward: 'forward',
      reverse: 'reverse',
      both: 'both ways',
    }),
    number('dt_us', 'Time difference read, µs', '', 0, -10_000, 10_000),
    number('zero_us', 'Zero, µs', '', 0, -100, 100),
    number('period_us', 'Tube period read, µs', '', 0, 0, 100_000),
    number('tube_C', 'Tube temperature', 'degC', 20, -100, 250),
  ]),
  group('When the memory is lost', [
    choice('boreUnit', 'Bore asked in (unit of the device)', 'mm', BORE_UNITS, lost),
    number('boreShown', 'It shows the bore as (0: not yet)', '', 0, 0, 100_000, lost),
    text('access', 'Access code', '', undefined, lost),
    number('volume_m3h', 'Span of the volume flow', 'm3/h', 20, 0.0001, 1e6, lost),
    number('density_kg_m3', 'Span of the density, to', 'kg/m3', 2000, 1, 20_000, lost),
    number('coldest_C', 'Temperature span from', 'degC', 0, -200, 300, lost),
    number('hottest_C', 'Temperature span to', 'degC', 100, -200, 400, lost),
  ]),
  group('Units', [
    choice('massUnit', 'Mass flow in', 'kg/h', asOptions(['kg/h', 'kg/min', 't/h', 'lb/h', 'lb/min'])),
    choice('volumeUnit', 'Volume flow in', 'm³/h', asOptions(['m³/h', 'L/min', 'L/h', 'US gal/min'])),
    choice('temperatureUnit', 'Temperature in', '°C', asOptions(['°C', '°F'])),
  ]),
  group('Outputs', [
    choice('source', 'Current output carries', 'mass', SOURCES),
    number('out_low', 'Its value at 4 mA', '', 0, -1e6, 1e6, otherSource),
    number('out_high', 'Its value at 20 mA', '', 100, -1e6, 1e6, otherSource),
    choice('fault', 'On a fault', 'down', {
      down: 'down, 3.6 mA or less',
      up: 'up, 21 mA or more',
      hold: 'holds the last value',
    }),
    choice('currentOn', 'Current output is', 'on', { on: 'on', off: 'off' }),
    choice('pulseBy', 'Frequency output is told as', 'frequency', {
      frequency: 'frequency at full flow',
      pulses: 'pulses per kg',
      units: 'kg per pulse',
    }),
    number('pulse_Hz', 'Frequency at full flow, Hz', '', 8000, 0.01, 20_000, when('pulseBy', 'frequency')),
    number('pulses_kg', 'Pulses per kg', '', 1440, 1e-6, 1e9, when('pulseBy', 'pulses')),
    number('kg_pulse', 'kg per pulse', '', 0.001, 1e-9, 1e6, when('pulseBy', 'units')),
    number('limit_Hz', 'Receiver takes up to, Hz', '', 10_000, 0.1, 100_000),
    number('pulse_ms', 'Pulse width, ms', '', 0.05, 0.001, 10_000),
    choice('total1', 'Totalizer 1 counts', 'forward', TOTALS),
    choice('total2', 'Totalizer 2 counts', 'net', TOTALS),
    flag('backlight', 'Display with backlight', false),
    text('language', 'Language of the display', ''),
    choice('rotation', 'Display turned by', '0', { '0': '0°', '90': '90°', '180': '180°', '270': '270°' }),
  ]),
  group('Accuracy and cutoff', [
    number('flow_kgh', 'Full flow', 'kg/h', 20_000, 0.001, 1e7),
    number('least_kgh', 'Smallest real flow', 'kg/h', 300, 0.001, 1e7),
    number('zs_kgh', 'Zero stability', 'kg/h', 1.4, 0.00001, 1e5),
    number('base_pct', 'Base error', '%', 0.1, 0.001, 10),
    choice('style', 'Certificate counts', 'max', { max: 'the larger of both', sum: 'the sum of both' }),
    number('cutoff_kgh', 'Low-flow cutoff, both ways', 'kg/h', 2.8, 0, 1e6),
    number('damping_s', 'Damping', 's', 1, 0, 100),
  ]),
  firstReadingGroup('kg/h', { standard: 0, min: -1e7, max: 1e7 }),
] as const
export type Entries = EntriesOf<typeof GROUPS>
