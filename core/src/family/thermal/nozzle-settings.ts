import { numberListProblem, positiveListProblem } from '../../quantity/number-list.ts'
import { number, text } from '../../quantity/setting.ts'
import { group, type EntriesOf } from '../family.ts'

export const NOZZLE_GROUP = group('Nitrogen and nozzle check', [
  number('throat_mm', 'Nozzle throat', 'mm', 3.2, 0.2, 50),
  number('Cd', 'Discharge coefficient of its certificate (0: none)', '', 0, 0, 1),
  text('p0_list', 'Pressures before it, kPa absolute (three to five)', '', positiveListProblem),
  text('indicated_list', 'The meter reads at each, kg/h', '', positiveListProblem),
  text('baseline_list', 'Deviation of the baseline at each, %', '', numberListProblem),
  text('yearly_list', 'Mean deviations of earlier yearly checks, %', '', numberListProblem),
  number('t0_C', 'Temperature before the nozzle', 'degC', 22, -20, 60),
  number('after_kPa', 'Pressure behind it, absolute', 'kPa', 118, 0, 6000),
  number('ofReading_pct', 'Allowed, of reading', '%', 1, 0, 20),
  number('ofFs_pct', 'Allowed, of full scale', '%', 0.2, 0, 20),
  number('checkFs_kgh', 'Full scale of the check', 'kg/h', 60, 0.1, 1e6),
  number('room_m3', 'Room', 'm3', 42, 1, 1e6),
  number('release_m3h', 'Nitrogen released', 'm3/h', 55, 0.1, 1e5),
])
export type NozzleEntries = EntriesOf<readonly [typeof NOZZLE_GROUP]>
