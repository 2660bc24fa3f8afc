import type { Answer } from '@calm/core/calculation'
import type { Work } from '../work/work.ts'

/** A calculation of the catalogue: ours take milliseconds. */
export const calculate: Work<{ readonly calculation: string; readonly input: unknown }, Answer> = {
  name: 'calculate',
  time_ms: 2_000,
  memory_MB: 256,
}
