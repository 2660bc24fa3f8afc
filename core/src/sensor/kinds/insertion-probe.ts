import { choice, number, text, valuesOf, type Typed } from '../../quantity/setting.ts'
import { positiveListProblem } from '../../quantity/number-list.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { SensorKind } from '../sensor-kind.ts'

/** In which pressures a nozzle’s certificate may be written. */
export const CERTIFICATE_PRESSURES = {
  kPa: 'kPa absolute',
  kPag: 'kPa gauge',
  bar: 'bar absolute',
  barg: 'bar gauge',
  psi: 'psi absolute',
  psig: 'psi gauge',
} as const

/** Plate of a thermal probe, and the nozzle that it was certified with. */
export const PROBE_SETTINGS = [
  text('serial', 'Serial of the probe', ''),
  number('probe_mm', 'Probe length', 'mm', 600, 50, 3000),
  number('stem_mm', 'Stem diameter', 'mm', 19.05, 3, 60),
  number('head_mm', 'Widest part (passes the valve)', 'mm', 19.05, 3, 80),
  number('tip_mm', 'Tip beyond the point (that senses)', 'mm', 12, 0, 100),
  text('nozzle', 'Serial of its nozzle', ''),
  number('throat_mm', 'Nozzle throat', 'mm', 3.2, 0.2, 50),
  number('Cd', 'Discharge coefficient (of its certificate; 0: none)', '', 0, 0, 1),
  number('checkFs_kgh', 'Full scale of the check', 'kg/h', 60, 0.1, 1e6),
  choice('p0_unit', 'Pressures are in (as the certificate has them)', 'kPa', CERTIFICATE_PRESSURES),
  text('p0_list', 'Pressures of its certificate, in that unit', '', positiveListProblem),
  text('certified_list', 'It read at each, kg/h', '', positiveListProblem),
] as const

export const insertionProbe: SensorKind = {
  id: 'insertion-probe',
  title: 'Insertion probe',
  titles: 'Insertion probes with their nozzles',
  settings: PROBE_SETTINGS,
  says: (typed: Typed) => {
    const s = valuesOf(PROBE_SETTINGS, typed)
    return `${sayNumber(s.probe_mm)} mm long, stem ${sayNumber(s.stem_mm)} mm, nozzle ${s.nozzle || 'not named'} of ${sayNumber(s.throat_mm)} mm`
  },
  problems: (typed) => {
    const s = valuesOf(PROBE_SETTINGS, typed)
    const count = (list: string) => list.split(/[;\s]+/).filter((w) => w !== '').length
    return [
      ...(s.serial.trim() === '' ? [{ name: 'serial', says: 'A probe is known by its serial.' }] : []),
      ...(s.head_mm < s.stem_mm
        ? [{ name: 'head_mm', says: 'The widest part is not narrower than the stem.' }]
        : []),
      ...(count(s.p0_list) !== count(s.certified_list)
        ? [
            {
              name: 'certified_list',
              says: `There are ${count(s.p0_list)} pressures and ${count(s.certified_list)} readings; one belongs to each.`,
            },
          ]
        : []),
    ]
  },
}
