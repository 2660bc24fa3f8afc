import { choice, number } from '../../quantity/setting.ts'
import { group, type EntriesOf } from '../family.ts'
import { NOZZLE_GROUP } from './nozzle-settings.ts'

export const GROUPS = [
  group('Pipe and probe', [
    number('od_mm', 'Pipe outside diameter', 'mm', 273, 20, 3000),
    number('wall_mm', 'Wall and liner', 'mm', 9.27, 0.5, 200),
    number('stack_mm', 'Fitting face to pipe wall', 'mm', 312, 10, 2000),
    number('tip_mm', 'Tip beyond the sensing point', 'mm', 12, 0, 100),
    number('stem_mm', 'Stem diameter', 'mm', 19.05, 3, 60),
    number('probe_mm', 'Probe length', 'mm', 600, 50, 3000),
    number('gauge_kPa', 'Gauge pressure', 'kPa', 720, 0, 10_000),
    choice('gas', 'Gas', 'air', {
      air: 'air',
      nitrogen: 'nitrogen',
      natural_gas: 'natural gas',
      carbon_dioxide: 'carbon dioxide',
    }),
    number('n', 'Profile exponent', '', 7, 4, 12),
    number('v_m_s', 'Centre-line velocity at full scale', 'm/s', 14.2, 0.1, 100),
    number('fs_kgh', 'Full scale', 'kg/h', 2400, 0.1, 1e6),
  ]),
  NOZZLE_GROUP,
] as const
export type Entries = EntriesOf<typeof GROUPS>
