import { when } from '../../quantity/condition.ts'
import { choice, number, titlesOf } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { ECHO_READING_GROUP } from '../echo-reading.ts'
import { VESSEL_GROUP } from '../vessel.ts'
import { PROBES } from './probe.ts'

export const GROUPS = [
  group('Probe and points', [
    choice(
      'probe',
      'Probe',
      'rod',
      titlesOf(PROBES, (_, k) => `${PROBES[k].title}: ${PROBES[k].use}`),
    ),
    number('probe_m', 'Probe length', 'm', 2.4, 0.1, 60),
    number('topDead_m', 'Upper dead zone', 'm', 0.12, 0, 5),
    number('bottomDead_m', 'Lower dead zone', 'm', 0.08, 0, 5),
    number('standpipe_m', 'Standpipe (flange above the tank’s top)', 'm', 0, 0, 10),
    number('eps', 'Permittivity of the product', '', 70, 1.1, 100),
    choice('points', '4 and 20 mA points', 'usual', {
      usual: 'usual: all that can be measured',
      distance: 'as distances',
      level: 'as levels above 0 %',
    }),
    number('at4_m', 'Distance at 4 mA', 'm', 2.32, 0, 100, when('points', 'distance')),
    number('at20_m', 'Distance at 20 mA', 'm', 0.12, -1, 100, when('points', 'distance')),
    number('zero_m', 'Distance of level 0', 'm', 2.32, 0, 100, when('points', 'level')),
    number('level4_m', 'Level at 4 mA', 'm', 0, -5, 100, when('points', 'level')),
    number('level20_m', 'Level at 20 mA', 'm', 2.2, -5, 100, when('points', 'level')),
    number('distance_m', 'Distance read (0: not yet)', 'm', 0, 0, 100),
    number('apparentEnd_m', 'Probe’s end appears at (0: not seen)', 'm', 0, 0, 200),
  ]),
  ECHO_READING_GROUP,
  firstReadingGroup('m', { standard: 0, min: -1e5, max: 1e5 }),
  VESSEL_GROUP,
] as const
export type Entries = EntriesOf<typeof GROUPS>
