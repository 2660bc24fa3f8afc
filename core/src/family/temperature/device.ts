import { rtdResistance_ohm } from './rtd.ts'
import { convert } from '../../quantity/units.ts'
import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { DECADE } from './decade-tool.ts'
import type { Entries } from './settings.ts'

/** Resistance thermometer or thermocouple behind a transmitter. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Temperature transmitter',
  tool: DECADE,
  fullRead_s: 80,
  healthCheck_s: 60,
  damping_s: 1,
  noise: 4e-5,
  zeroShare: 0.006,
  signals: (at) => {
    const told = convert(at.input, at.range.unit, 'degC')
    const t_C = told.kind === 'value' ? told.value : at.input
    return [
      {
        name: 'sensor_ohm',
        title: 'Sensor, as Pt100',
        value: (rtdResistance_ohm(t_C) ?? 0) + 0.002 * at.scatter('sensor_ohm'),
        unit: 'ohm',
        low: 18,
        high: 391,
      },
      {
        name: 'lead_ohm',
        figure: true,
        title: 'Lead',
        value: 0.4 + 1.2 * at.wear + 0.002 * at.scatter('lead_ohm'),
        unit: 'ohm',
        low: 0,
        high: 10,
      },
      {
        name: 'terminal_C',
        title: 'Terminals (cold junction)',
        value: at.temperature_C + 3 + 0.1 * at.scatter('terminal_C'),
        unit: 'degC',
        low: -40,
        high: 85,
      },
    ]
  },
}
