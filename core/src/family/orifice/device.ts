import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { device as pressureDevice, pressureSignals } from '../pressure/device.ts'
import type { Entries } from './settings.ts'

/** What measures the differential is a pressure transmitter. */
export const device: DeviceBehaviour<Entries> = {
  ...pressureDevice,
  title: 'Differential pressure transmitter',
  signals: pressureSignals,
}
