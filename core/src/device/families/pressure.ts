import type { DeviceFamily } from './family.ts'

/** Gauge, absolute and differential pressure; also what measures flow or level by it. */
export const PRESSURE: DeviceFamily = {
  id: 'pressure',
  title: 'Pressure transmitter',
  fits: (type) => /pressure|orifice|hydrostatic/i.test(type),
  tool: 'hand-pump',
  fullRead_s: 120,
  healthCheck_s: 60,
  damping_s: 0.8,
  noise: 5e-5,
  zeroShare: 0.01,
  signals: (s) => [
    {
      name: 'module_C',
      title: 'Module temperature',
      value: s.temperature_C + 4 + 0.1 * s.scatter('module_C'),
      unit: 'degC',
      low: -40,
      high: 85,
    },
    {
      name: 'fill_pct',
      title: 'Response of the fill fluid',
      value: 99 - 12 * s.wear + 0.3 * s.scatter('fill_pct'),
      unit: '%',
      low: 80,
    },
  ],
}
