import { electrode_mV } from './electrode.ts'
import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { BUFFER_BOTTLES } from './buffer-bottles.ts'
import type { Entries } from './settings.ts'

/** A glass electrode with its reference. */
export const device: DeviceBehaviour<Entries> = {
  title: 'pH transmitter',
  tool: BUFFER_BOTTLES,
  fullRead_s: 90,
  healthCheck_s: 60,
  damping_s: 4,
  noise: 3e-4,
  zeroShare: 0.008,
  signals: (at) => {
    const slope_pct = 99.4 - 10 * at.wear
    const offset_mV = -6 * at.wear
    return [
      {
        name: 'electrode_mV',
        title: 'Electrode',
        value:
          electrode_mV({ slope_pct, offset_mV }, at.input, at.temperature_C) +
          0.1 * at.scatter('electrode_mV'),
        unit: 'mV',
      },
      { name: 'slope_pct', figure: true, title: 'Slope', value: slope_pct, unit: '%', low: 85, high: 105 },
      { name: 'offset_mV', title: 'Offset', value: offset_mV, unit: 'mV', low: -30, high: 30 },
      {
        name: 'glass_Mohm',
        title: 'Glass',
        // Halved by every ten degrees.
        value: (120 + 300 * at.wear) * 2 ** ((25 - at.temperature_C) / 10) + at.scatter('glass_Mohm'),
        unit: 'Mohm',
        low: 5,
        high: 1000,
      },
      {
        name: 'medium_C',
        title: 'Temperature',
        value: at.temperature_C + 0.05 * at.scatter('medium_C'),
        unit: 'degC',
        low: 0,
        high: 100,
      },
    ]
  },
}
