import { unless } from '../../quantity/condition.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { choice, flag, number, text, titlesOf } from '../../quantity/setting.ts'
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
    choice('joined', 'Written together on this tag', 'none', { none: 'none', ...titlesOf(ROLES) }),
    choice('joinedWith', 'and behind it, in the same text', 'flowTemperature', titlesOf(ROLES), joined),
    number('splitAfter', 'The second begins after character', '', 6, 1, 40, joined),
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
  group('Accuracy and outputs', [
    number('flow_kgh', 'Full flow', 'kg/h', 20_000, 0.001, 1e7),
    number('least_kgh', 'Smallest real flow', 'kg/h', 300, 0.001, 1e7),
    number('zs_kgh', 'Zero stability', 'kg/h', 1.4, 0.00001, 1e5),
    number('base_pct', 'Base error', '%', 0.1, 0.001, 10),
    choice('style', 'Certificate counts', 'max', { max: 'the larger of both', sum: 'the sum of both' }),
    number('cutoff_kgh', 'Low-flow cutoff', 'kg/h', 2.8, 0, 1e6),
    number('pulse_Hz', 'Frequency at full flow, Hz', '', 8000, 0.01, 20_000),
    number('limit_Hz', 'Receiver takes up to, Hz', '', 10_000, 0.1, 100_000),
    number('pulse_ms', 'Pulse width, ms', '', 0.05, 0.001, 10_000),
  ]),
] as const
export type Entries = EntriesOf<typeof GROUPS>
