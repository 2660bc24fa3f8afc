import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { TARGET } from '../../device/tools/target.ts'
import type { Entries } from './settings.ts'

/** A wave guided along a probe: surface echo, reference mark and end of the probe. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Level transmitter, guided wave',
  tool: TARGET,
  fullRead_s: 130,
  healthCheck_s: 90,
  damping_s: 1.5,
  noise: 1e-4,
  zeroShare: 0.005,
  signals: (at) => [
    {
      name: 'mark_pct',
      figure: true,
      title: 'Reference mark',
      value: 96 - 8 * at.wear + 0.4 * at.scatter('mark_pct'),
      unit: '%',
      low: 80,
      high: 110,
    },
    {
      name: 'surface_pct',
      title: 'Surface echo',
      value: Math.max(0, 70 - 15 * (1 - at.fraction) - 20 * at.wear + at.scatter('surface_pct')),
      unit: '%',
      low: 25,
    },
    {
      name: 'end_pct',
      figure: true,
      title: 'End of the probe',
      // What the surface reflects does not reach the end.
      value: Math.max(0, 22 - 10 * at.fraction - 6 * at.wear + 0.8 * at.scatter('end_pct')),
      unit: '%',
      low: 3,
    },
  ],
}
