import { compilePath, computeFrom, shownValue } from '../signal/path.ts'
import { stageOf, type Stage, type StageKind } from '../signal/stage.ts'
import { applyTransfer } from '../signal/transfer.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { shouldShow } from '../verify/should-show.ts'

export const QUARTERS = [0, 25, 50, 75, 100] as const

/** What a receiver will read too much by, at the quarter points of flow or level, % of span. */
export interface PredictedErrors {
  readonly at: StageKind
  readonly errors_pct: readonly number[]
}

/**
 * The path as configured against the path as documented, before anything was read.
 * @param oneRoot - the loop has a flow element that needs exactly one square root.
 */
export function predictedErrors(stages: readonly Stage[], oneRoot: boolean): PredictedErrors[] {
  const scale = loopScale(stages)
  const transmitter = stageOf(stages, 'transmitter')
  if (!scale || !transmitter) return []
  const documented = transmitter.shows ?? transmitter.range
  const path = compilePath(stages)
  const { transfer, reverse } = transmitter
  /** Fraction of output that this fraction of input should give. */
  const expected = (u: number) => {
    const q = oneRoot ? Math.sqrt(Math.max(0, u)) : transfer.kind === 'table' ? applyTransfer(transfer, u) : u
    return reverse && !transmitter.shows ? 1 - q : q
  }
  const receivers = (['controller', 'converter', 'display'] as const).flatMap((kind) => {
    const stage = stageOf(stages, kind)
    if (!stage) return []
    const at = path.stations.findIndex((s) => s.kind === kind)
    const range =
      kind === 'controller'
        ? scale.output
        : shouldShow(stageOf(stages, 'controller') ? scale.output : documented, stage.range)
    return [{ kind, at, range }]
  })
  return receivers.map(({ kind, at, range }) => ({
    at: kind,
    errors_pct: QUARTERS.map((level) => {
      const q = level / 100
      const u = oneRoot ? q * q : q
      const input = transmitter.range.low + (transmitter.range.high - transmitter.range.low) * u
      const values = computeFrom(path, 0, input)
      const read = shownValue(values[at] ?? { kind: 'none' }) ?? 0
      const should = range.low + (range.high - range.low) * expected(u)
      return (100 * (read - should)) / Math.abs(range.high - range.low)
    }),
  }))
}
