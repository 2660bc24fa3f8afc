import type { Severity } from '../../finding.ts'

/** What is taken for the allowed error of a loop that nobody has given a tolerance, % of span. */
const USUAL_TOLERANCE_PCT = 0.5
/** An error below this part of the tolerance is nobody's work today. */
const SMALL = 1 / 3

/**
 * How grave a disagreement is: by what it takes of the loop's tolerance, never by its being there.
 * @param error_pct - largest error that it makes, % of span
 * @param tolerance_pct - allowed error of the loop, % of span; null where nobody told it
 */
export function severityOf(error_pct: number, tolerance_pct: number | null): Severity {
  const part = Math.abs(error_pct) / (tolerance_pct ?? USUAL_TOLERANCE_PCT)
  return part > 1 ? 'stop' : part > SMALL ? 'warn' : 'note'
}
