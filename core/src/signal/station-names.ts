import type { StageKind } from './stage.ts'

/** What technicians call the stations of the line. */
export const STATION_NAMES: Readonly<Record<StageKind, string>> = {
  process: 'Process',
  sensor: 'Sensor',
  transmitter: 'Percent',
  frequency: 'Frequency',
  totalizer: 'Totalizer',
  output: 'Loop',
  isolator: 'Isolator',
  converter: 'Converter',
  shunt: 'Shunt',
  input: 'Input card',
  controller: 'Controller',
  display: 'Display',
}
