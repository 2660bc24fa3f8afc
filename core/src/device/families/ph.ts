import { electrode_mV } from '../../instrument/ph/electrode.ts'
import type { DeviceFamily } from './family.ts'

/** A glass electrode with its reference. */
export const PH: DeviceFamily = {
  id: 'ph',
  title: 'pH transmitter',
  fits: (type) => /\bph\b/i.test(type),
  tool: 'buffers',
  fullRead_s: 90,
  healthCheck_s: 60,
  damping_s: 4,
  noise: 3e-4,
  zeroShare: 0.008,
  signals: (s) => {
    const slope_pct = 99.4 - 10 * s.wear
    const offset_mV = -6 * s.wear
    return [
      {
        name: 'electrode_mV',
        title: 'Electrode',
        value:
          electrode_mV({ slope_pct, offset_mV }, s.input, s.temperature_C) + 0.1 * s.scatter('electrode_mV'),
        unit: 'mV',
      },
      { name: 'slope_pct', title: 'Slope', value: slope_pct, unit: '%', low: 85, high: 105 },
      { name: 'offset_mV', title: 'Offset', value: offset_mV, unit: 'mV', low: -30, high: 30 },
      {
        name: 'glass_Mohm',
        title: 'Glass',
        // Halved by every ten degrees.
        value: (120 + 300 * s.wear) * 2 ** ((25 - s.temperature_C) / 10) + s.scatter('glass_Mohm'),
        unit: 'Mohm',
        low: 5,
        high: 1000,
      },
      {
        name: 'medium_C',
        title: 'Temperature',
        value: s.temperature_C + 0.05 * s.scatter('medium_C'),
        unit: 'degC',
        low: 0,
        high: 100,
      },
    ]
  },
}
