import { NAMED_GASES } from '../../media/fluid.ts'
import { choice, number, titlesOf } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'

export const GROUPS = [
  group('Plate and pipe', [
    number('D_mm', 'Pipe bore (at working temperature)', 'mm', 102.26, 10, 2000),
    number('d_mm', 'Orifice bore', 'mm', 61, 1, 1500),
    choice('taps', 'Taps', 'flange', { flange: 'flange', corner: 'corner', 'D-D/2': 'D and D/2' }),
    choice('fluid', 'Fluid', 'water', {
      water: 'water',
      ...titlesOf(NAMED_GASES, (g) => `${g.title} (gas)`),
    }),
    number('t_C', 'Temperature', 'degC', 31, -50, 300),
    number('gauge_kPa', 'Gauge pressure upstream', 'kPa', 319, -100, 50_000),
  ]),
  group('Range', [
    number('wanted_m3h', 'Flow wanted at 20 mA (0: as it comes)', 'm3/h', 0, 0, 1e6),
    number('span_kPa', 'Differential at 20 mA', 'kPa', 40, 0.01, 1000),
    number('cut_pct', 'Cutoff of the differential', '%', 0.5, 0, 10),
    number('damping_s', 'Damping', 's', 1, 0, 100),
  ]),
  firstReadingGroup('m3/h', { standard: 0, min: -1e7, max: 1e7 }),
] as const
export type Entries = EntriesOf<typeof GROUPS>
