import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { STOPPED_FLOW } from '../../device/tools/stopped-flow.ts'
import { keyedNumber } from '../../device/keyed.ts'
import { constantsOf, nameOf } from './characterization.ts'
import { memoryLines, plateLines } from './memory-lost.ts'
import type { Entries } from './settings.ts'

/** Periods of a tube in air and in water, where nobody entered a characterization; µs and g/cm³. */
const USUAL = {
  lightPeriod: 9766,
  lightDensity: 0.0012,
  heavyPeriod: 10_300,
  heavyDensity: 0.9982,
  flowFactor: 31,
}
/** What flows: a liquid a little heavier than water, g/cm³. */
const PRODUCT = 1.003

/** Mass flow by vibrating tubes: its period follows the density, its time difference the flow. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Coriolis mass flow meter',
  tool: STOPPED_FLOW,
  fullRead_s: 150,
  healthCheck_s: 240,
  damping_s: 1,
  noise: 1e-4,
  zeroShare: 0.002,
  lost: (s) => {
    if (!s.memoryLost) return null
    const lines = memoryLines(s, constantsOf(s).constants).map((l) => l.says)
    return { lines, vital: Object.values(plateLines(s)) }
  },
  // Flow is its time difference times the factor that was keyed in: a decimal less is another meter.
  gain: (s, keyed) => {
    const { flowFactor } = constantsOf(s).constants
    const has = keyedNumber(keyed, nameOf(s, 'flowFactor'))
    return flowFactor && flowFactor.value !== 0 && Number.isFinite(has) ? has / flowFactor.value : 1
  },
  signals: (at, s) => {
    const { constants } = constantsOf(s)
    const told = (role: keyof typeof USUAL) => constants[role]?.value ?? USUAL[role]
    const perUnit = s.densityUnit === 'kg/m3' && constants.heavyDensity ? 1000 : 1
    const [light, heavy] = [told('lightDensity'), told('heavyDensity')]
    const share = (PRODUCT * perUnit - light) / (heavy - light)
    const square = told('lightPeriod') ** 2 + share * (told('heavyPeriod') ** 2 - told('lightPeriod') ** 2)
    const period = Math.sqrt(Math.max(0, square))
    const lag = (at.fraction * s.flow_kgh) / 3.6 / told('flowFactor') + s.zero_us
    const plate = Object.entries(plateLines(s)).flatMap(([name, line]) => {
      const value = keyedNumber(at.keyed, line)
      return Number.isFinite(value) ? [{ name, title: line, value, unit: '', held: true }] : []
    })
    return [
      ...plate,
      { name: 'period_us', title: 'Tube period', value: period + 0.02 * at.scatter('period_us'), unit: 'us' },
      {
        name: 'lag_us',
        title: 'Time difference',
        value: lag + 0.002 * at.scatter('lag_us'),
        unit: 'us',
      },
      {
        name: 'drive_pct',
        figure: true,
        title: 'Drive gain',
        value: 4.2 + 6 * at.wear + 0.1 * at.scatter('drive_pct'),
        unit: '%',
        low: 1,
        high: 60,
      },
      {
        name: 'stiffness_pct',
        figure: true,
        title: 'Tube stiffness against factory',
        value: 100 - 0.8 * at.wear + 0.02 * at.scatter('stiffness_pct'),
        unit: '%',
        low: 98,
        high: 102,
      },
      {
        name: 'tube_C',
        title: 'Tube temperature',
        value: at.temperature_C + 0.1 * at.scatter('tube_C'),
        unit: 'degC',
        low: -50,
        high: 150,
      },
    ]
  },
}
