import { all, unless, type Condition } from '../../quantity/condition.ts'
import { numberListProblem } from '../../quantity/number-list.ts'
import { asOptions, choice, number, text } from '../../quantity/setting.ts'
import { group, type EntriesOf } from '../family.ts'
import { BUFFERS } from './buffers.ts'

const names = { none: 'none', ...asOptions(BUFFERS) }
/** The three entries of one buffer, there as soon as the ones before it are filled. */
const buffer = <const I extends number>(i: I, before: readonly Condition[]) =>
  [
    choice(`buffer${i}`, `Buffer ${i}`, 'none', names, before.length > 0 ? all(...before) : undefined),
    number(
      `mV${i}`,
      `Stable reading ${i}`,
      'mV',
      0,
      -1000,
      1000,
      all(...before, unless(`buffer${i}`, 'none')),
    ),
    number(`t${i}_C`, `Temperature ${i}`, 'degC', 25, -20, 100, all(...before, unless(`buffer${i}`, 'none'))),
  ] as const
const filled = (...which: number[]) => which.map((i) => unless(`buffer${i}`, 'none'))

export const GROUPS = [
  group('Range and electrode in force', [
    text('serial', 'Serial of the sensor', ''),
    number('low_pH', 'pH at 4 mA', '', 4, -2, 16),
    number('high_pH', 'pH at 20 mA', '', 10, -2, 16),
    number('offset_mV', 'Offset in force', 'mV', 0, -200, 200),
    number('slope_pct', 'Slope in force', '%', 100, 10, 150),
    number('sample_C', 'Sample temperature', 'degC', 25, -20, 140),
    number('process_pH', 'Usual pH of the process', '', 7, -2, 16),
    number('read_mV', 'Electrode reads (0: not yet)', 'mV', 0, -1000, 1000),
    number('glass_Mohm', 'Glass resistance, MΩ (0: not known)', '', 0, 0, 100_000),
    number('reference_kohm', 'Reference resistance (0: not known)', 'kohm', 0, 0, 100_000),
  ]),
  group(
    'Buffers, in the order they were used',
    [
      ...buffer(1, []),
      ...buffer(2, filled(1)),
      ...buffer(3, filled(1, 2)),
      ...buffer(4, filled(1, 2, 3)),
      ...buffer(5, filled(1, 2, 3, 4)),
    ],
    3,
  ),
  group('Earlier calibrations of this sensor', [
    text('days', 'Days, as 0 60 120', '', numberListProblem),
    text('slopes', 'Slopes, %', '', numberListProblem),
  ]),
] as const
export type Entries = EntriesOf<typeof GROUPS>
