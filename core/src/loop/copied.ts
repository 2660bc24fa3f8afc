import type { LoopDocument } from './document.ts'
import { entryPath } from './facts.ts'

/** As many as a document may name. */
const MOST_UNCONFIRMED = 200

/**
 * A new loop like another one. Nobody has typed or looked at anything on it yet: ranges and entries are assumed until
 * somebody confirms them, so that nothing of it is good by the other's work. What is of one place and one device alone
 * (wiring, sensor, calibration, what is to be keyed in, floor, remark) does not go along.
 */
export function copied(document: LoopDocument, tag: string): LoopDocument {
  const like = { ...document }
  delete like.floor
  const { setUp, path } = like
  const ranges = path.flatMap((stage) =>
    'range' in stage ? [`path.${stage.kind}.range.low`, `path.${stage.kind}.range.high`] : [],
  )
  const entries = Object.keys(setUp?.values ?? {}).map(entryPath)
  return {
    ...like,
    tag,
    wiring: null,
    lastCalibrated: null,
    toKeyIn: [],
    remark: '',
    asTyped: {},
    setUp: setUp && { values: setUp.values },
    unconfirmed: [...new Set([...like.unconfirmed, ...ranges, ...entries])].slice(0, MOST_UNCONFIRMED),
  }
}
