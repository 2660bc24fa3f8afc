import { bisect } from '../numeric/bisect.ts'
/**
 * Time until a step has gone to a share of its way.
 * @param filters - equal filters in a row: one in the transmitter, perhaps one in the controller.
 */
export function settlingTime_s(tau_s: number, share: number, filters: 1 | 2 = 1): number {
  if (filters === 1) return -tau_s * Math.log(1 - share)
  // 1 − (1 + x)·e^−x = share, by halving.
  return tau_s * bisect((x) => 1 - (1 + x) * Math.exp(-x) >= share, 0, 100, 0)
}
