import { keyedIn, keyedNumber, keyedShare } from '../../device/keyed.ts'
import { rtdResistance_ohm } from '../temperature/rtd.ts'
import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { meanFactor } from './insertion.ts'
import { NITROGEN } from './nitrogen-tool.ts'
import type { Entries } from './settings.ts'

/** How much hotter than the gas the heated element is kept. */
const HOTTER_K = 60

/** A heated element in the gas: power follows the mass flow. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Thermal mass flow meter',
  tool: NITROGEN,
  fullRead_s: 110,
  healthCheck_s: 180,
  damping_s: 2,
  // It reads a hundredth of its range as well as all of it: what is wrong of it is a share of the reading.
  noise: 5e-5,
  zeroShare: 3e-5,
  // It feels a velocity and reckons a flow with the area and the profile that it was told.
  gain: (s, keyed) =>
    keyedShare(keyedIn(keyed, 'Pipe bore', 'mm'), s.od_mm - 2 * s.wall_mm) ** 2 *
    keyedShare(keyedNumber(keyed, 'Profile factor'), meanFactor(s.n).F),
  signals: (at) => [
    {
      name: 'gas_ohm',
      title: 'Reference element',
      value: (rtdResistance_ohm(at.temperature_C) ?? 100) + 0.01 * at.scatter('gas_ohm'),
      unit: 'ohm',
      low: 80,
      high: 160,
    },
    {
      name: 'heated_ohm',
      title: 'Heated element',
      value: (rtdResistance_ohm(at.temperature_C + HOTTER_K) ?? 120) + 0.3 * at.wear,
      unit: 'ohm',
      low: 100,
      high: 190,
    },
    {
      name: 'power_mW',
      title: 'Heating power',
      // King's law, with dirt in the way.
      value:
        (180 + 900 * Math.sqrt(Math.max(0, at.fraction))) * (1 - 0.04 * at.wear) + at.scatter('power_mW'),
      unit: 'mW',
      low: 120,
      high: 1400,
    },
  ],
}
