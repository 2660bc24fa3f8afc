import { PHASE_WORDS, type Column, type Phase } from '@calm/core/record/kinds/reading-values'
import type { Run } from '@calm/core/record/run'
import { sayNumber } from '@calm/core/quantity/round'
import { STATION_IDS } from '@calm/core/signal/stage'
import type { CarriedReadings } from '../../signal-path/carried.ts'

/** Where each column of a row is read on the line. */
const STATION: Readonly<Record<Column, string>> = {
  applied: STATION_IDS.process,
  pv: STATION_IDS.sensor,
  loopCurrent_mA: STATION_IDS.output,
  controller: STATION_IDS.controller,
}

/** The unit in which a column is read: that of the range as the run was begun. */
function unitOf({ inputRange, outputRange }: Run['started'], column: Column): string {
  if (column === 'loopCurrent_mA') return 'mA'
  return column === 'controller' ? outputRange.unit : inputRange.unit
}

/** The last row that was read in a phase, as the line carries it; null before the first. */
export function carriedRow(
  run: Pick<Run, 'plan' | 'asFound' | 'asLeft' | 'started'> | null,
  phase: Phase,
): CarriedReadings | null {
  const point = run?.plan.findLast((p) => Object.keys(run[phase][p.index] ?? {}).length > 0)
  if (!run || !point) return null
  const values = Object.fromEntries(
    Object.entries(run[phase][point.index] ?? {}).map(([column, read]) => [
      STATION[column as Column],
      { text: sayNumber(read.value, 7), unit: unitOf(run.started, column as Column) },
    ]),
  )
  return { ink: 'measured', values, from: `Read: ${PHASE_WORDS[phase]}, point ${point.index + 1}.` }
}
