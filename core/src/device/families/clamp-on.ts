import type { DeviceFamily, Situation } from './family.ts'

const LIQUID_M_S = 1482
const GAS_M_S = 430
const PATH_M = 0.14
/** Flow velocity at the top of the range. */
const TOP_M_S = 2.4

const isGas = (s: Situation) => /Nm3|Sm3/.test(s.range.unit)

/** Transit time through the wall, liquid or gas. */
export const CLAMP_ON: DeviceFamily = {
  id: 'clamp-on',
  title: 'Clamp-on flow meter',
  fits: (type) => /clamp-on/i.test(type),
  tool: 'stopped-flow',
  fullRead_s: 110,
  healthCheck_s: 120,
  damping_s: 3,
  noise: 6e-4,
  zeroShare: 0.003,
  signals: (s) => {
    const c = isGas(s) ? GAS_M_S : LIQUID_M_S + 2.5 * (s.temperature_C - 20)
    const v = s.fraction * TOP_M_S
    return [
      {
        name: 'soundSpeed_m_s',
        title: 'Speed of sound',
        value: c * (1 + 0.0004 * s.scatter('soundSpeed_m_s')),
        unit: 'm/s',
        low: 0.97 * c,
        high: 1.03 * c,
      },
      {
        name: 'signal_pct',
        title: 'Signal',
        value: Math.max(0, (isGas(s) ? 68 : 84) - 35 * s.wear + s.scatter('signal_pct')),
        unit: '%',
        low: 40,
      },
      { name: 'transit_us', title: 'Transit time', value: (1e6 * PATH_M) / c, unit: 'us' },
      {
        name: 'difference_ns',
        title: 'Time difference',
        value: (1e9 * PATH_M * v) / (c * c) + 0.05 * s.scatter('difference_ns'),
        unit: 'ns',
      },
    ]
  },
}
