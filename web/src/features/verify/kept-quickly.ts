import { sayNumber } from '@calm/core/quantity/round'
import type { RowValues } from '@calm/core/record/run'
import type { QuickRow } from '@calm/core/scale/diagnosis/quick'
import { pointsOf, type Plan } from '@calm/core/verify/plan'
import { appliedAt, type LoopScale } from '@calm/core/verify/reading-errors'

/** The points that are read in a hurry. */
export const QUICK_PLAN: Plan = 'P5'

/** What was read in a hurry as readings of a verification; a point at which nothing was read is none. */
export function keptQuickly(
  scale: LoopScale,
  rows: readonly QuickRow[],
): { readonly index: number; readonly values: RowValues }[] {
  return pointsOf(QUICK_PLAN).flatMap(({ level_pct, index }) => {
    const read = Object.entries({ ...rows[index] }).flatMap(([column, value]) =>
      value == null ? [] : [[column, { value, typed: sayNumber(value, 12) }] as const],
    )
    if (read.length === 0) return []
    const applied = appliedAt(scale, level_pct)
    const values = Object.fromEntries([
      ['applied', { value: applied, typed: sayNumber(applied, 12) }],
      ...read,
    ]) as RowValues
    return [{ index, values }]
  })
}
