import { unless, when } from '../../quantity/condition.ts'
import { choice, number, text } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { heightOf } from './stack.ts'
import { NOZZLE_GROUP } from './nozzle-settings.ts'

const pieces = when('stackBy', 'pieces')
const held = unless('restraint', 'none')

export const GROUPS = [
  group('Gas and full scale', [
    choice('gas', 'Gas', 'air', {
      air: 'air',
      nitrogen: 'nitrogen',
      natural_gas: 'natural gas',
      carbon_dioxide: 'carbon dioxide',
    }),
    number('gauge_kPa', 'Gauge pressure', 'kPa', 720, 0, 10_000),
    number('t_C', 'Temperature', 'degC', 25, -40, 400),
    number('base_C', 'Base temperature (of the volumes)', 'degC', 20, -20, 60),
    number('fs_kgh', 'Full scale', 'kg/h', 2400, 0.1, 1e6),
    number('v_m_s', 'Velocity on its plate (full scale, at base; 0: none)', 'm/s', 0, 0, 300),
    number('cutoff_kgh', 'Low cutoff', 'kg/h', 24, 0, 1e6),
    number('damping_s', 'Damping', 's', 1, 0, 100),
  ]),
  group('Pipe', [
    number('od_mm', 'Pipe outside diameter', 'mm', 273, 20, 3000),
    number('wall_mm', 'Wall and liner', 'mm', 9.27, 0.5, 200),
    number('n', 'Profile exponent', '', 7, 4, 12),
  ]),
  group('Probe', [
    text('serial', 'Serial of the probe', ''),
    number('probe_mm', 'Probe length', 'mm', 600, 50, 3000),
    number('stem_mm', 'Stem diameter', 'mm', 19.05, 3, 60),
    number('head_mm', 'Widest part (passes the valve)', 'mm', 19.05, 3, 80),
    number('tip_mm', 'Tip beyond the point (that senses)', 'mm', 12, 0, 100),
  ]),
  group('Fittings, from the face down to the pipe', [
    choice('stackBy', 'The stack is known', 'whole', {
      whole: 'as one length',
      pieces: 'piece by piece',
    }),
    number('stack_mm', 'Fitting face to pipe wall', 'mm', 312, 10, 2000, when('stackBy', 'whole')),
    number('fitting_mm', 'Compression fitting', 'mm', 45, 5, 300, pieces),
    number('above_mm', 'Nipples above the valve', 'mm', 50, 0, 1000, pieces),
    number('valve_mm', 'Valve, end to end', 'mm', 95, 10, 600, pieces),
    number('valveBore_mm', 'Bore of the valve', 'mm', 25, 3, 200, pieces),
    number('below_mm', 'Nipples below the valve', 'mm', 62, 0, 1000, pieces),
    number('stub_mm', 'Weld stub above the wall', 'mm', 60, 0, 500, pieces),
    choice('restraint', 'Held by', 'none', {
      none: 'hand, no restraint',
      cable: 'restraint cable',
      retractor: 'retractor',
    }),
    number('rated_N', 'It holds (0: not told)', 'N', 0, 0, 100_000, held),
    number('stroke_mm', 'Its travel (0: not told)', 'mm', 0, 0, 3000, when('restraint', 'retractor')),
  ]),
  firstReadingGroup('kg/h', { standard: 0, min: -1e7, max: 1e7 }),
  NOZZLE_GROUP,
] as const
export type Entries = EntriesOf<typeof GROUPS>

/** Fitting face to the pipe's outer wall, mm: as one length, or the sum of its pieces. */
export const stackOf_mm = (s: Entries): number => (s.stackBy === 'whole' ? s.stack_mm : heightOf(s))
