import type { PlanProblem, Placing } from '@calm/core/plan/problem'
import type { WorkedOut } from '@calm/core/plan/solve'
import type { Weighed } from '@calm/core/plan/weigh'
import type { Refused } from '@calm/core/refused'
import type { DaySheetData } from '../reports/day-sheet.ts'
import type { Work } from '../work/work.ts'

/** A day worked out: exactly where the jobs are few, else by a search as long as it may take. */
export const solveDay: Work<
  {
    readonly problem: PlanProblem
    readonly seed: number
    readonly method: 'exact' | 'search'
    readonly milliseconds: number
  },
  WorkedOut | Refused
> = { name: 'solve-day', time_ms: 60_000, memory_MB: 512 }

/** A plan as it stands: what it breaks, and why each job is where it is. */
export const weighDay: Work<
  {
    readonly problem: PlanProblem
    readonly placings: readonly Placing[]
    readonly zone: string
    readonly withReasons: boolean
  },
  Weighed | Refused
> = { name: 'weigh-day', time_ms: 20_000, memory_MB: 256 }

/** A day on paper, one page a person. */
export const printDay: Work<DaySheetData, Uint8Array> = {
  name: 'print-day',
  time_ms: 30_000,
  memory_MB: 256,
}
