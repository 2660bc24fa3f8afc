import { unless, when } from '../../quantity/condition.ts'
import { choice, number } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { ECHO_READING_GROUP } from '../echo-reading.ts'
import { VESSEL_GROUP } from '../vessel.ts'

const isRadar = when('principle', 'radar6', 'radar26', 'radar80')
const isUltrasonic = unless('principle', 'radar6', 'radar26', 'radar80')
const own = (which: string) => when('points', which)

export const GROUPS = [
  group('Sensor and distances', [
    choice('principle', 'Principle', 'ultrasonic', {
      ultrasonic: 'ultrasonic',
      radar6: 'radar, 6 GHz',
      radar26: 'radar, 26 GHz',
      radar80: 'radar, 80 GHz',
    }),
    number('empty_m', 'Empty distance (0 %)', 'm', 5, 0.05, 100),
    choice('hundred', '100 % is', 'entered', {
      entered: 'at the full distance',
      deadZone: 'where the dead zone ends',
      top: 'at the tank’s top',
    }),
    number('full_m', 'Full distance (100 %)', 'm', 0.7, -1, 100, when('hundred', 'entered')),
    number('roof_m', 'Distance to the tank’s top', 'm', 0, -5, 100, when('hundred', 'top')),
    number('offset_m', 'Face above reference', 'm', 0, -5, 5),
    number('blocking_m', 'Dead zone from the face', 'm', 0.3, 0, 5),
    choice('points', 'Output', 'level', {
      level: 'level: 4 mA empty, 20 mA full',
      distance: 'distance: 4 mA full, 20 mA empty',
      ownDistance: 'own points, as distances',
      ownLevel: 'own points, as levels',
    }),
    number('at4_m', 'Distance at 4 mA', 'm', 5, -1, 100, own('ownDistance')),
    number('at20_m', 'Distance at 20 mA', 'm', 0.7, -1, 100, own('ownDistance')),
    number('level4_m', 'Level at 4 mA', 'm', 0, -5, 100, own('ownLevel')),
    number('level20_m', 'Level at 20 mA', 'm', 4.3, -5, 100, own('ownLevel')),
    number('set_C', 'Gas temperature (counted with)', 'degC', 20, -40, 150, isUltrasonic),
    number('gas_C', 'Gas temperature now', 'degC', 20, -40, 150, isUltrasonic),
    number('antenna_m', 'Antenna', 'm', 0.08, 0.01, 1, isRadar),
    number('eps', 'Permittivity of the product', '', 80, 1.1, 100, isRadar),
    number('lateral_m', 'Nearest wall or ladder (from the axis)', 'm', 0.5, 0.01, 50, isRadar),
    number('face_m', 'Distance read (from the face; 0: not yet)', 'm', 0, 0, 100),
  ]),
  ECHO_READING_GROUP,
  firstReadingGroup('m', { standard: 0, min: -1e5, max: 1e5 }),
  VESSEL_GROUP,
] as const
export type Entries = EntriesOf<typeof GROUPS>
