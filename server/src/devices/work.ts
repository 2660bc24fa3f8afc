import type { StandIn } from '@calm/core/device/stand-in'
import type { LoopDocument } from '@calm/core/loop/document'
import type { Work } from '../work/work.ts'

/** What a stand-in remembers, as far as it was fetched, at a moment of its own clock and of the server’s. */
export interface Remembered {
  readonly device: StandIn
  readonly t_s: number
  readonly now: number
  readonly document: LoopDocument
}
/** Readings from a device’s memory as CSV, thousands of them; null where none were fetched. */
export const historyFile: Work<Remembered, string | null> = {
  name: 'history-file',
  time_ms: 20_000,
  memory_MB: 256,
}
