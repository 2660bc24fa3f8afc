import type { Station } from '@calm/core/signal/path'
import type { StageKind } from '@calm/core/signal/stage'

/** What technicians call the stations of the line. */
export const STATION_NAMES: Readonly<Record<StageKind, string>> = {
  process: 'Process',
  sensor: 'Sensor',
  transmitter: 'Percent',
  output: 'Loop',
  shunt: 'Shunt',
  input: 'Input card',
  controller: 'Controller',
  display: 'Display',
}

const FIXED: Readonly<Record<string, number>> = { '%': 3, mA: 3, V: 4, counts: 0 }

/** Digits that tell a ten-thousandth of the span, as a good instrument shows it. */
export const decimalsOf = (s: Pick<Station, 'unit' | 'low' | 'high'>): number =>
  FIXED[s.unit] ?? Math.max(0, Math.min(6, 4 - Math.ceil(Math.log10(Math.abs(s.high - s.low)))))
