import type { DeviceFamily } from './family.ts'

/** Whatever has a range and is none of the others: it is known by its current alone. */
export const OTHER: DeviceFamily = {
  id: 'other',
  title: 'Transmitter',
  fits: () => true,
  tool: 'simulation',
  fullRead_s: 60,
  healthCheck_s: 60,
  damping_s: 0.8,
  noise: 5e-5,
  zeroShare: 0.008,
  signals: (s) => [
    {
      name: 'electronics_C',
      title: 'Electronics',
      value: s.temperature_C + 6 + 0.1 * s.scatter('electronics_C'),
      unit: 'degC',
      low: -40,
      high: 85,
    },
  ],
}
