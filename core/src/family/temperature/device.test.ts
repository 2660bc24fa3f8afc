import { describe, expect, test } from 'vitest'
import { standIn, signalsAt, toolOfDevice } from '../../device/stand-in.ts'
import { transmitter } from '../../transmitter/transmitter.ts'

/** A stand-in whose head is at 23 °C, with this at its sensor. */
const at = (told: Record<string, string>, t_C: number) => {
  const d = standIn(7, transmitter({ LSL: -200, USL: 850 }, {}, 0, 450), {
    ...{ family: 'temperature', unit: 'degC', told, process: t_C, noise: 0 },
  })
  return { ...d, motion: { ...d.motion, from: t_C, to: t_C } }
}

// Tables of IEC 60751 and IEC 60584-1; a thermocouple's less that of 23 °C.
describe('what a temperature transmitter says of its terminals', () => {
  test.each<[sensor: string, t_C: number, name: string, unit: string, value: number]>([
    ['pt100', 100, 'sensor_ohm', 'ohm', 138.51],
    ['pt1000', 0, 'sensor_ohm', 'ohm', 1000],
    ['K', 225, 'sensor_mV', 'mV', 9.141 - 0.919],
    ['J', 100, 'sensor_mV', 'mV', 5.269 - 1.174],
    ['T', 0, 'sensor_mV', 'mV', -0.911],
  ])('%s at %d °C', (sensor, t_C, name, unit, value) => {
    const [first] = signalsAt(at({ sensor }, t_C), 100)
    expect(first).toMatchObject({ name, unit })
    // Its own scatter is in it.
    expect(Math.abs((first?.value ?? NaN) - value)).toBeLessThan(2e-4 * (first?.high ?? 0))
    expect(first?.low).toBeLessThan(value)
    expect(first?.high).toBeGreaterThan(value)
  })
  test.each([
    ['pt100', 'Resistance decade, by the sensor’s table'],
    ['K', 'Millivolt source, by the sensor’s table'],
  ])('%s is stood in for by the right tool', (sensor, title) => {
    expect(toolOfDevice(at({ sensor }, 20)).title).toBe(title)
  })
})
