import type { DeviceBehaviour } from './behaviour.ts'
import { SIMULATION } from './tools/simulation.ts'

/** Whatever has a range and is none of the others: it is known by its current alone. */
export const OTHER_DEVICE: DeviceBehaviour<unknown> = {
  title: 'Transmitter',
  tool: SIMULATION,
  fullRead_s: 60,
  healthCheck_s: 60,
  damping_s: 0.8,
  noise: 5e-5,
  zeroShare: 0.008,
  signals: (at) => [
    {
      name: 'electronics_C',
      title: 'Electronics',
      value: at.temperature_C + 6 + 0.1 * at.scatter('electronics_C'),
      unit: 'degC',
      low: -40,
      high: 85,
    },
  ],
}
