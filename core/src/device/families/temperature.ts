import { rtdResistance_ohm } from '../../instrument/temperature/rtd.ts'
import { convert } from '../../quantity/units.ts'
import type { DeviceFamily } from './family.ts'

/** Resistance thermometer or thermocouple behind a transmitter. */
export const TEMPERATURE: DeviceFamily = {
  id: 'temperature',
  title: 'Temperature transmitter',
  fits: (type) => /temperature/i.test(type),
  tool: 'decade',
  fullRead_s: 80,
  healthCheck_s: 60,
  damping_s: 1,
  noise: 4e-5,
  zeroShare: 0.006,
  signals: (s) => {
    const told = convert(s.input, s.range.unit, 'degC')
    const t_C = told.kind === 'value' ? told.value : s.input
    return [
      {
        name: 'sensor_ohm',
        title: 'Sensor, as Pt100',
        value: (rtdResistance_ohm(t_C) ?? 0) + 0.002 * s.scatter('sensor_ohm'),
        unit: 'ohm',
        low: 18,
        high: 391,
      },
      {
        name: 'lead_ohm',
        title: 'Lead',
        value: 0.4 + 1.2 * s.wear + 0.002 * s.scatter('lead_ohm'),
        unit: 'ohm',
        low: 0,
        high: 10,
      },
      {
        name: 'terminal_C',
        title: 'Terminals (cold junction)',
        value: s.temperature_C + 3 + 0.1 * s.scatter('terminal_C'),
        unit: 'degC',
        low: -40,
        high: 85,
      },
    ]
  },
}
