import type { Answer } from '@calm/core/calculation'
import type { Work } from '../work/work.ts'

/** A calculation of the catalogue: ours take milliseconds. */
export const calculate: Work<{ readonly calculation: string; readonly input: unknown }, Answer> = {
  name: 'calculate',
  time_ms: 2_000,
  memory_MB: 256,
}

/** One that was told how long it may take: a day is planned better the longer it is looked at. */
export const calculateLong: typeof calculate = { name: 'calculate', time_ms: 25_000, memory_MB: 512 }
