import { numberListProblem, positiveListProblem } from '../../quantity/number-list.ts'
import { choice, number, text } from '../../quantity/setting.ts'
import { CERTIFICATE_PRESSURES } from '../../sensor/kinds/insertion-probe.ts'
import { group, type EntriesOf } from '../family.ts'

export const NOZZLE_GROUP = group('Nitrogen and nozzle check', [
  text('nozzle', 'Serial of the nozzle', ''),
  number('throat_mm', 'Nozzle throat', 'mm', 3.2, 0.2, 50),
  number('Cd', 'Discharge coefficient (of its certificate; 0: none)', '', 0, 0, 1),
  choice('p0_unit', 'Pressures are in (as the certificate has them)', 'kPa', CERTIFICATE_PRESSURES),
  number('atmosphere_kPa', 'Air pressure at the site', 'kPa', 101.325, 50, 110),
  text('p0_list', 'Pressures before it, in that unit', '', positiveListProblem),
  text('certified_list', 'The certificate’s own reading at each, kg/h', '', positiveListProblem),
  text('indicated_list', 'The meter reads at each, kg/h', '', positiveListProblem),
  text('baseline_list', 'Deviation of the baseline at each, %', '', numberListProblem),
  text('yearly_list', 'Mean deviations of earlier yearly checks, %', '', numberListProblem),
  number('t0_C', 'Temperature before it (the nozzle)', 'degC', 22, -20, 60),
  number('after_kPa', 'Pressure behind it (absolute)', 'kPa', 118, 0, 6000),
  number('ofReading_pct', 'Allowed, of reading', '%', 1, 0, 20),
  number('ofFs_pct', 'Allowed, of full scale', '%', 0.2, 0, 20),
  number('checkFs_kgh', 'Full scale of the check', 'kg/h', 60, 0.1, 1e6),
  number('room_m3', 'Room', 'm3', 42, 1, 1e6),
  number('release_m3h', 'Nitrogen released', 'm3/h', 55, 0.1, 1e5),
])
export type NozzleEntries = EntriesOf<readonly [typeof NOZZLE_GROUP]>

const KPA: Readonly<Record<NozzleEntries['p0_unit'], number>> = {
  kPa: 1,
  kPag: 1,
  bar: 100,
  barg: 100,
  psi: 6.894757293168,
  psig: 6.894757293168,
}
const isGauge = (unit: NozzleEntries['p0_unit']) => unit.endsWith('g')
/** A pressure of the certificate as absolute kPa. */
export const absolute_kPa = (s: NozzleEntries, p: number): number =>
  p * KPA[s.p0_unit] + (isGauge(s.p0_unit) ? s.atmosphere_kPa : 0)
/** The same, as it stands on the certificate. */
export const asCertified = (s: NozzleEntries, p_kPa: number): number =>
  (p_kPa - (isGauge(s.p0_unit) ? s.atmosphere_kPa : 0)) / KPA[s.p0_unit]
