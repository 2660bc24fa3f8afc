import { rtdResistance_ohm } from './rtd.ts'
import { THERMOCOUPLES, thermocouple_mV, thermocoupleRange_C, type Thermocouple } from './thermocouple.ts'
import { convert } from '../../quantity/units.ts'
import type { DeviceBehaviour, Signal } from '../../device/behaviour.ts'
import { DECADE, SOURCE } from './decade-tool.ts'
import type { Entries } from './settings.ts'

const R0_OHM: Readonly<Record<string, number>> = { pt100: 100, pt1000: 1000 }
/** Lowest and highest resistance of a platinum sensor, as shares of the one at 0 °C; beyond it is broken or bridged. */
const [RTD_LOW, RTD_HIGH] = [0.18, 3.91]
/** Terminals inside a head are warmer than the air around. */
const HEAD_K = 3
/** Nobody has told which sensor it is: a usual one. */
const coupleOf = ({ sensor }: Partial<Entries>): Thermocouple | null =>
  THERMOCOUPLES.find((t) => t === sensor) ?? null

/** What stands at the terminals, as the sensor of the loop gives it at a temperature. */
function atTerminals(t_C: number, terminal_C: number, s: Partial<Entries>): Omit<Signal, 'name'> {
  const type = coupleOf(s)
  if (type === null) {
    const r0 = R0_OHM[s.sensor ?? 'pt100'] ?? 100
    const [low, high] = [RTD_LOW * r0, RTD_HIGH * r0]
    const title = `Sensor, as ${r0 === 1000 ? 'Pt1000' : 'Pt100'}`
    return { title, value: rtdResistance_ohm(t_C, r0) ?? 0, unit: 'ohm', low, high }
  }
  const mV = (t: number) => thermocouple_mV(type, t) ?? 0
  const [coldest, hottest] = thermocoupleRange_C(type)
  const cold = mV(terminal_C)
  return {
    title: `Voltage at the terminals, type ${type}`,
    value: mV(t_C) - cold,
    unit: 'mV',
    low: mV(coldest) - cold,
    high: mV(hottest) - cold,
  }
}

/** Resistance thermometer or thermocouple behind a transmitter. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Temperature transmitter',
  tool: DECADE,
  toolFor: (s) => (coupleOf(s) === null ? DECADE : SOURCE),
  fullRead_s: 80,
  healthCheck_s: 60,
  damping_s: 1,
  noise: 4e-5,
  zeroShare: 0.006,
  signals: (at, s) => {
    const told = convert(at.input, at.range.unit, 'degC')
    const t_C = told.kind === 'value' ? told.value : at.input
    const terminal_C = at.temperature_C + HEAD_K
    const sensor = atTerminals(t_C, terminal_C, s)
    const name = sensor.unit === 'mV' ? 'sensor_mV' : 'sensor_ohm'
    return [
      { ...sensor, name, value: sensor.value + 2e-5 * (sensor.high ?? 0) * at.scatter(name) },
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
        value: terminal_C + 0.1 * at.scatter('terminal_C'),
        unit: 'degC',
        low: -40,
        high: 85,
      },
    ]
  },
}
