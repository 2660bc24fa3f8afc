import type { LogComparison, LogJudgement, Mapping, WrongLine } from '@calm/contract/logs'
import type { Block } from '@calm/core/logs/blocks'
import type { NotCompared } from '@calm/core/logs/compare/compare'
import type { ClocksApart } from '@calm/core/logs/compare/clocks'
import type { LagSums, Origin } from '@calm/core/logs/compare/lag-sums'
import type { OwnTime, PairsOfPart } from '@calm/core/logs/compare/parts'
import type { LogFinding } from '@calm/core/logs/findings/finding'
import type { Own } from '@calm/core/logs/parts/judge-part'
import type { PartJudged } from '@calm/core/logs/parts/piece'
import type { ReadState } from '@calm/core/logs/sniff/read-rows'
import type { z } from 'zod'
import type { HeldAgainst } from './held-against.ts'
import type { Work } from '../work/work.ts'

export interface PieceToRead {
  readonly mapping: Mapping
  readonly reader: ReadState
  readonly file: number
  /** Lines of the file before this piece. */
  readonly line: number
  readonly text: string
}
export interface PieceRead {
  /** By channel, each in the same rows. */
  readonly channels: readonly (readonly Block[])[]
  readonly rows: number
  readonly wrong: readonly z.output<typeof WrongLine>[]
  readonly wrongCount: number
  readonly reader: ReadState
  readonly line: number
}

/** Lines of a file as blocks of numbers. */
export const readPiece: Work<PieceToRead, PieceRead> = { name: 'read-log', time_ms: 30_000, memory_MB: 512 }

export interface ToJudge {
  readonly samples: Float64Array
  readonly quality: Float64Array | null
  readonly from: number
  readonly to: number
  readonly against: HeldAgainst | null
  readonly per: 's' | 'min' | 'h' | 'd' | null
  readonly spikeK?: number | undefined
}
/** A stretch of a log summed up and judged. */
export const judgeStretch: Work<ToJudge, Omit<LogJudgement, 'most' | 'against' | 'parts'>> = {
  name: 'judge-log',
  time_ms: 60_000,
  memory_MB: 1_024,
}

export interface PartToJudge extends ToJudge {
  /** What of the samples is the part's own, ms; the rest is its neighbours'. */
  readonly own: Own
}
/** A part of a long stretch judged. */
export const judgeOnePart: Work<PartToJudge, PartJudged> = {
  name: 'judge-part',
  time_ms: 60_000,
  memory_MB: 1_024,
}

export interface ToCompare {
  readonly a: Float64Array
  readonly b: Float64Array
  /** Signal quality of the two, where they have one. */
  readonly qualityOfA: Float64Array | null
  readonly qualityOfB: Float64Array | null
  readonly from: number
  readonly to: number
  readonly maxLag: number
  readonly Ua: number
  readonly Ub: number
  readonly against: HeldAgainst | null
}
/** What is seen of two logs in a part of them, without what measures nothing there. */
export interface PartToCompare extends Pick<
  ToCompare,
  'a' | 'b' | 'qualityOfA' | 'qualityOfB' | 'from' | 'to'
> {
  readonly leftOut: Readonly<Record<'a' | 'b', readonly Pick<LogFinding, 'code' | 'from' | 'to'>[]>>
  readonly own: OwnTime
  readonly step_ms: number
  readonly origin: Origin
}
/** Pairs of a part of two logs at each lag. */
export const lagOfPart: Work<PartToCompare & { readonly most: number }, LagSums> = {
  name: 'lag-of-part',
  time_ms: 60_000,
  memory_MB: 1_024,
}
export interface PartToPair extends PartToCompare {
  readonly lag_ms: number
  readonly clocks: ClocksApart | null
  readonly tau?: number | undefined
  readonly T?: number | undefined
  readonly Ua: number
  readonly Ub: number
}
/** Pairs of a part of two logs with the lag taken out. */
export const pairsOfPart: Work<PartToPair, PairsOfPart> = {
  name: 'pairs-of-part',
  time_ms: 60_000,
  memory_MB: 1_024,
}

/** A comparison but for what is known of the stretch as a whole. */
export type Told = Omit<LogComparison, 'unit' | 'parts'>
/** Two logs compared. */
export const compareStretch: Work<ToCompare, Told | NotCompared> = {
  name: 'compare-logs',
  time_ms: 60_000,
  memory_MB: 1_024,
}
