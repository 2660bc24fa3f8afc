import type { ProcedureContext } from './step.ts'

/** What may be wrong of the reading, in the unit of the range, and of the current, mA: the loop's own tolerance. */
export const allowedOf = ({ tolerance_pct, range }: Pick<ProcedureContext, 'tolerance_pct' | 'range'>) => ({
  pv: (tolerance_pct / 100) * Math.abs(range.high - range.low),
  mA: 0.16 * tolerance_pct,
})
