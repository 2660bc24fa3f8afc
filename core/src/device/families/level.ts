import type { DeviceFamily } from './family.ts'

/** Level from above, by sound or radar: a time of flight becomes a distance. */
export const LEVEL: DeviceFamily = {
  id: 'level',
  title: 'Level transmitter, from above',
  fits: (type) => /level, (ultrasonic|radar)/i.test(type),
  tool: 'target',
  fullRead_s: 100,
  healthCheck_s: 90,
  damping_s: 2,
  noise: 2e-4,
  zeroShare: 0.006,
  signals: (s) => {
    const far = 1 - s.fraction
    return [
      {
        name: 'distance',
        title: 'Distance',
        value: 0.3 + far * Math.abs(s.range.high - s.range.low),
        unit: s.range.unit,
      },
      {
        name: 'echo_pct',
        title: 'Echo',
        // The farther the weaker; foam and a dirty face take their part.
        value: Math.max(0, 92 - 40 * far - 25 * s.wear + 1.5 * s.scatter('echo_pct')),
        unit: '%',
        low: 30,
      },
      {
        name: 'air_C',
        title: 'Air temperature',
        value: s.temperature_C + 0.2 * s.scatter('air_C'),
        unit: 'degC',
        low: -20,
        high: 60,
      },
    ]
  },
}
