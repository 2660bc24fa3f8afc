import { sayNumber } from '../../quantity/round.ts'
import { valueIn } from '../../quantity/shown-in.ts'
import type { Entries } from './settings.ts'

const DIGITS = 6
const VOLUME: Readonly<Record<Entries['volumeUnit'], string>> = {
  'm³/h': 'm3/h',
  'L/min': 'L/min',
  'L/h': 'L/h',
  'US gal/min': 'USgal/min',
}
/** Spans as this device has to be told them: it was set to these units before. */
export const massIn = (s: Entries, kg_h: number): string =>
  `${sayNumber(valueIn(kg_h, 'kg/h', s.massUnit), DIGITS)} ${s.massUnit}`
export const volumeIn = (s: Entries, m3_h: number): string =>
  `${sayNumber(valueIn(m3_h, 'm3/h', VOLUME[s.volumeUnit] ?? 'm3/h'), DIGITS)} ${s.volumeUnit}`
export const temperatureIn = (s: Entries, t_C: number): string =>
  sayNumber(valueIn(t_C, 'degC', s.temperatureUnit === '°F' ? 'degF' : 'degC'), DIGITS)
export const densityIn = (s: Entries, kg_m3: number): string =>
  s.densityUnit === 'g/cm3' ? `${sayNumber(kg_m3 / 1000, DIGITS)} g/cm³` : `${sayNumber(kg_m3, DIGITS)} kg/m³`
