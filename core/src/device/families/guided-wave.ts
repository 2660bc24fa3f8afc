import type { DeviceFamily } from './family.ts'

/** A wave guided along a probe: surface echo, reference mark and end of the probe. */
export const GUIDED_WAVE: DeviceFamily = {
  id: 'guided-wave',
  title: 'Level transmitter, guided wave',
  fits: (type) => /guided wave/i.test(type),
  tool: 'target',
  fullRead_s: 130,
  healthCheck_s: 90,
  damping_s: 1.5,
  noise: 1e-4,
  zeroShare: 0.005,
  signals: (s) => [
    {
      name: 'mark_pct',
      title: 'Reference mark',
      value: 96 - 8 * s.wear + 0.4 * s.scatter('mark_pct'),
      unit: '%',
      low: 80,
      high: 110,
    },
    {
      name: 'surface_pct',
      title: 'Surface echo',
      value: Math.max(0, 70 - 15 * (1 - s.fraction) - 20 * s.wear + s.scatter('surface_pct')),
      unit: '%',
      low: 25,
    },
    {
      name: 'end_pct',
      title: 'End of the probe',
      // What the surface reflects does not reach the end.
      value: Math.max(0, 22 - 10 * s.fraction - 6 * s.wear + 0.8 * s.scatter('end_pct')),
      unit: '%',
      low: 3,
    },
  ],
}
