import type { FrequencyStage, Stage } from '../../signal/stage.ts'

export const FREQUENCY_STAGE = (atRate: number, frequency_Hz: number): FrequencyStage => ({
  kind: 'frequency',
  atRate,
  frequency_Hz,
  limit_Hz: 10_000,
  width_ms: 0.05,
})

/** A short line from 0 to so much, with a frequency output or none. */
export const pathOf = (unit: string, high: number, frequency?: FrequencyStage): Stage[] => [
  { kind: 'process' },
  { kind: 'transmitter', range: { low: 0, high, unit }, transfer: { kind: 'linear' } },
  ...(frequency ? [frequency] : []),
  { kind: 'output', signal: '4-20', satLow_mA: 3.8, satHigh_mA: 20.5, failTo: 'low' },
]
