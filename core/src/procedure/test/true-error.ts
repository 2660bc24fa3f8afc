import type { StandIn } from '../../device/stand-in.ts'
import { readTransmitter } from '../../transmitter/transmitter.ts'
import type { ProcedureRun } from '../run.ts'

/** Worst of reading, current and both, over the range and both ways, % of span: what no technician is told. */
export function trueError_pct(d: StandIn, run: ProcedureRun): number {
  const { low, high } = run.started.context.range
  const span = high - low
  let worst = 0
  for (const share of [0, 0.25, 0.5, 0.75, 1])
    for (const dir of [-1, 1] as const) {
      const x = low + share * span
      const r = readTransmitter(d.transmitter, x, dir, d.temperature_C)
      const out = (r.mA - 4) / 16
      worst = Math.max(
        worst,
        Math.abs(r.PV - x) / Math.abs(span),
        Math.abs(out - share),
        Math.abs(out - (r.PV - low) / span),
      )
    }
  return 100 * worst
}
