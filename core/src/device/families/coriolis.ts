import type { DeviceFamily, Situation } from './family.ts'

/** Periods of the tube in air and in water at 20 °C. */
const AIR = { period_us: 9766, density: 1.2 }
const WATER = { period_us: 10_300, density: 998.2 }
/** Gas or liquid, by what the range is in: nothing else tells. */
const densityOf = (s: Situation) => (Math.abs(s.range.high) < 1000 && s.range.unit === 'kg/h' ? 18 : 1003)

/** Mass flow by vibrating tubes. */
export const CORIOLIS: DeviceFamily = {
  id: 'coriolis',
  title: 'Coriolis mass flow meter',
  fits: (type) => /coriolis/i.test(type),
  tool: 'stopped-flow',
  fullRead_s: 150,
  healthCheck_s: 240,
  damping_s: 1,
  noise: 1e-4,
  zeroShare: 0.002,
  signals: (s) => {
    const density = densityOf(s)
    const share = (density - AIR.density) / (WATER.density - AIR.density)
    const period = Math.sqrt(AIR.period_us ** 2 + share * (WATER.period_us ** 2 - AIR.period_us ** 2))
    const drive = 4.2 + 6 * s.wear + 0.1 * s.scatter('drive_pct')
    return [
      { name: 'period_us', title: 'Tube period', value: period + 0.02 * s.scatter('period_us'), unit: 'us' },
      {
        name: 'lag_us',
        title: 'Time difference',
        value: 12.5 * s.fraction + 0.002 * s.scatter('lag_us'),
        unit: 'us',
      },
      { name: 'drive_pct', title: 'Drive gain', value: drive, unit: '%', low: 1, high: 60 },
      {
        name: 'stiffness_pct',
        title: 'Tube stiffness against factory',
        value: 100 - 0.8 * s.wear + 0.02 * s.scatter('stiffness_pct'),
        unit: '%',
        low: 98,
        high: 102,
      },
      {
        name: 'tube_C',
        title: 'Tube temperature',
        value: s.temperature_C + 0.1 * s.scatter('tube_C'),
        unit: 'degC',
        low: -50,
        high: 150,
      },
    ]
  },
}
