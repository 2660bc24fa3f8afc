import { compilePath, computeFrom, shownValue } from '../signal/path.ts'
import { stationDecimals } from '../signal/station-decimals.ts'
import type { Stage, StageKind } from '../signal/stage.ts'
import { roundText } from '../quantity/round.ts'

export const QUARTER_LEVELS: readonly number[] = [0, 25, 50, 75, 100]

export interface PocketCard {
  readonly columns: readonly { readonly kind: StageKind; readonly unit: string }[]
  readonly rows: readonly { readonly level_pct: number; readonly cells: readonly string[] }[]
}

/** What every station reads at chosen levels of the range, rounded as a good instrument shows it. */
export function pocketCard(stages: readonly Stage[], levels: readonly number[]): PocketCard {
  const path = compilePath(stages)
  const first = path.stations[0]
  return {
    columns: path.stations.map((s) => ({ kind: s.kind, unit: s.unit })),
    rows: levels.map((level_pct) => {
      const values = first ? computeFrom(path, 0, first.fromFraction(level_pct / 100)) : []
      return {
        level_pct,
        cells: path.stations.map((s, i) =>
          roundText(shownValue(values[i] ?? { kind: 'none' }) ?? 0, stationDecimals(s)),
        ),
      }
    }),
  }
}
