import type { Reading } from '../verify/reading-errors.ts'
import type { Phase } from './kinds/reading-values.ts'
import type { Run } from './run.ts'

/** The readings of a phase as numbers, in the order of the plan. */
export function readings(run: Run, phase: Phase): Reading[] {
  const rows = phase === 'asLeft' && run.leftAsFound ? run.asFound : run[phase]
  return run.plan.map((p) => {
    const row = rows[p.index]
    return {
      index: p.index,
      direction: p.direction,
      applied: row?.applied?.value ?? null,
      pv: row?.pv?.value ?? null,
      loopCurrent_mA: row?.loopCurrent_mA?.value ?? null,
      controller: row?.controller?.value ?? null,
    }
  })
}
