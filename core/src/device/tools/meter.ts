/** What the current is read with: each is off by its own and shows so many digits. */
export const METERS = {
  calibrator: { title: 'Loop calibrator', off: 4e-5, step_mA: 0.0001 },
  multimeter: { title: 'Multimeter', off: 2e-4, step_mA: 0.001 },
} as const
export type MeterId = keyof typeof METERS
export const METER_IDS = Object.keys(METERS) as readonly MeterId[]

/** What a meter in the loop shows of a current. @param draw - its own luck, from -1 to 1, the same for its whole life */
export function meterShows_mA(meter: MeterId, mA: number, draw: number): number {
  const { off, step_mA } = METERS[meter]
  return Math.round((mA * (1 + off * draw)) / step_mA) * step_mA
}
