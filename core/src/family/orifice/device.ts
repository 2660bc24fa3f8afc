import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { PRESSURE_CELL } from '../pressure/device.ts'
import type { Entries } from './settings.ts'

/** What measures the differential is a pressure transmitter. */
export const device: DeviceBehaviour<Entries> = {
  ...PRESSURE_CELL,
  title: 'Differential pressure transmitter',
}
