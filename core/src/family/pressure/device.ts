import type { DeviceBehaviour, Signal, Situation } from '../../device/behaviour.ts'
import { HAND_PUMP } from '../../device/tools/hand-pump.ts'
import type { Entries } from './settings.ts'

/** What every pressure cell says of itself. */
const pressureSignals = (at: Situation): readonly Signal[] => [
  {
    name: 'module_C',
    title: 'Module temperature',
    value: at.temperature_C + 4 + 0.1 * at.scatter('module_C'),
    unit: 'degC',
    low: -40,
    high: 85,
  },
  {
    name: 'fill_pct',
    figure: true,
    title: 'Response of the fill fluid',
    value: 99 - 12 * at.wear + 0.3 * at.scatter('fill_pct'),
    unit: '%',
    low: 80,
  },
]

/** The cell alone, whatever is measured with it. */
export const PRESSURE_CELL = {
  title: 'Pressure transmitter',
  tool: HAND_PUMP,
  fullRead_s: 120,
  healthCheck_s: 60,
  damping_s: 0.8,
  noise: 5e-5,
  zeroShare: 0.01,
  signals: pressureSignals,
} satisfies DeviceBehaviour<unknown>
/** Gauge, absolute and differential pressure; also what measures flow or level by it. */
export const device: DeviceBehaviour<Entries> = { ...PRESSURE_CELL }
