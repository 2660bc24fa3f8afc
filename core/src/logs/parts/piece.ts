import type { LogFinding } from '../findings/finding.ts'

/** What a part of a log says of its own stretch: a finding, and whether it goes on beyond the seams. */
export interface Piece extends LogFinding {
  readonly fromBefore: boolean
  readonly goesOn: boolean
}

/** One value for each few samples of a part: of what is too slow to be seen within it. */
export interface Slow {
  readonly t: Float64Array
  readonly v: Float64Array
}

/** What a part amounts to, without gaps: as the totals of a log. */
export interface PartTotal {
  readonly forward: number
  readonly reverse: number
  readonly net: number
  readonly U: number
  readonly complete: boolean
  readonly gaps: number
}

/** One part judged. */
export interface PartJudged {
  readonly pieces: readonly Piece[]
  readonly slow: Slow
  /** Usual time from one sample to the next, ms; 0 where it has none. */
  readonly interval_ms: number
  readonly total: PartTotal | null
  /** How often, and for how long, it stands still. */
  readonly stable: { readonly count: number; readonly seconds: number } | null
}
