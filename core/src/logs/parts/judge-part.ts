import { median } from '../../numeric/median.ts'
import { CHUNK } from '../blocks.ts'
import type { JudgeSettings, LogFinding } from '../findings/finding.ts'
import { judgeLog } from '../findings/judge.ts'
import { arrived, type Arrived, type Channel, paceOf } from '../samples.ts'
import { stableStretches } from '../stable-stretches.ts'
import { totalOf } from '../total.ts'
import { withoutWeak } from '../usable.ts'
import type { PartJudged, PartTotal, Piece, Slow } from './piece.ts'

/** Times of the samples that are a part's own: from the first one, and up to the first one of the next. */
export interface Own {
  readonly from: number
  readonly to: number
}

/** They speak of a moment. */
const AT_A_MOMENT = new Set<LogFinding['code']>([
  'BACKWARDS',
  'GAP',
  'SPIKE',
  'UNIT_CHANGED',
  'STEP',
  'NOISE_CHANGED',
])

/** Which samples a finding counts. */
function counted(f: LogFinding, a: Arrived, s: JudgeSettings): ((i: number) => boolean) | null {
  const x = (i: number) => a.v[i] ?? NaN
  const limit = Number(f.evidence['limit'])
  const span = s.range ? s.range.hi - s.range.lo : 0
  switch (f.code) {
    case 'OUT_OF_RANGE':
      return (i) => s.range !== undefined && (x(i) < s.range.lo || x(i) > s.range.hi)
    case 'AT_LIMIT':
      return f.evidence['known'] === true
        ? (i) => Math.abs(x(i) - limit) <= 1e-6 * span
        : (i) => x(i) === limit
    case 'FROZEN':
      return () => true
    case 'SIGNAL_LOW':
      return (i) => (a.q?.[i] ?? NaN) < s.qualityLimit
    case 'DUPLICATE':
      return (i) => a.arrival[i] === 'duplicate'
    default:
      return null
  }
}

/** A finding of what is seen, as far as it speaks of what is the part's own; null where it does not. */
function pieceOf(f: LogFinding, a: Arrived, own: Own, s: JudgeSettings): Piece | null {
  if (AT_A_MOMENT.has(f.code))
    return f.from >= own.from && f.from < own.to ? { ...f, fromBefore: false, goesOn: false } : null
  const [fromBefore, goesOn] = [f.from < own.from, f.to >= own.to]
  if (!fromBefore && !goesOn) return { ...f, fromBefore, goesOn }
  let [from, to, seen, count] = [Infinity, -Infinity, 0, 0]
  const isCounted = counted(f, a, s)
  for (let i = 0; i < a.n; i++) {
    const t = a.t[i] ?? NaN
    if (!(t >= Math.max(f.from, own.from) && t <= f.to && t < own.to)) continue
    if (isCounted && !isCounted(i)) continue
    count++
    seen = 1
    if (t < from) from = t
    if (t > to) to = t
  }
  if (seen === 0) return null
  const share = f.to > f.from ? (to - from) / (f.to - f.from) : 1
  const evidence = {
    ...f.evidence,
    ...(f.evidence['samples'] === undefined ? {} : { samples: count }),
    // A line runs evenly: as much of it lies here as of its time.
    ...(f.code === 'DRIFT' ? { total: Number(f.evidence['total']) * share } : {}),
  }
  return { ...f, from, to, evidence, fromBefore, goesOn }
}

/** The middle one of every few samples that measure: what is slow stays, spikes and noise do not. */
function slowOf(a: Arrived, own: Own, s: JudgeSettings): Slow {
  const [t, v]: [number[], number[]] = [[], []]
  const few: number[] = []
  let first = 0
  const put = (last: number) => {
    if (few.length < CHUNK / 2) return
    t.push(((a.t[first] ?? 0) + (a.t[last] ?? 0)) / 2)
    v.push(median(few))
  }
  for (let i = 0; i < a.n; i++) {
    const time = a.t[i] ?? NaN
    const rises = a.arrival[i] === 'first' || a.arrival[i] === 'forward'
    if (!rises || !(time >= own.from && time < own.to) || (a.q?.[i] ?? Infinity) < s.qualityLimit) continue
    if (few.length === 0) first = i
    few.push(a.v[i] ?? NaN)
    if (few.length < CHUNK) continue
    put(i)
    few.length = 0
  }
  return { t: Float64Array.from(t), v: Float64Array.from(v) }
}

/** What is asked of a part beside its findings; null: it has none. */
export interface AlsoAsked {
  /** The time that stands under the stroke of a rate. */
  readonly per: 's' | 'min' | 'h' | 'd' | null
  /** Damping, s, and tolerance of its loop. */
  readonly still: { readonly tau: number; readonly T: number } | null
}

/** Its own samples that measure, and the one behind them: the time up to it belongs to this part. */
function ownOf(channel: Channel, own: Own, { qualityLimit }: JudgeSettings, withNext: boolean): Channel {
  const { t, v } = withoutWeak(channel, qualityLimit).channel
  const [times, values]: [number[], (number | null)[]] = [[], []]
  for (let i = 0; i < t.length; i++) {
    const [time, value] = [t[i] ?? NaN, v[i] ?? null]
    const isOwn = time >= own.from && time < own.to
    if (!isOwn && !(withNext && time >= own.to && value !== null)) continue
    times.push(time)
    values.push(value)
    if (!isOwn) break
  }
  return { t: times, v: values }
}

function totalOfPart(channel: Channel, per: NonNullable<AlsoAsked['per']>, gapFactor: number): PartTotal {
  const asked = { per, cutoff: 0, gap: 'refuse', gapFactor, uReading: 0, uZero: 0 } as const
  const { forward, reverse, net, U, complete, gaps } = totalOf(channel, asked)
  return { forward, reverse, net, U, complete, gaps: gaps.length }
}

/**
 * Judges a part of a log with some of both neighbours: what stands near a seam is seen whole by one of the two, and
 * told by the one it begins in.
 */
export function judgePart(
  channel: Channel,
  own: Own,
  s: JudgeSettings,
  { per, still }: AlsoAsked = { per: null, still: null },
): PartJudged {
  const a = arrived(channel)
  const stable = still && stableStretches(ownOf(channel, own, s, false), still.tau, still.T, s.gapFactor)
  return {
    pieces: judgeLog(channel, s).flatMap((f) => pieceOf(f, a, own, s) ?? []),
    slow: slowOf(a, own, s),
    interval_ms: paceOf(a, s.gapFactor).interval,
    total: per && totalOfPart(ownOf(channel, own, s, true), per, s.gapFactor),
    stable: stable && { count: stable.stretches.length, seconds: stable.seconds },
  }
}
