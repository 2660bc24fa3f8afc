import type { LoopSummary } from '@calm/core/loop/summary'

/** What lists show of a loop, as the columns of its row: the days apart, so that the database can sort by them. */
export function shownColumns({ lastCalibrated, ...summary }: LoopSummary) {
  return { summary, lastCalibrated, dueNow: summary.dueNow?.on ?? null }
}
