import type { JudgeSettings, LogFinding } from './findings/finding.ts'
import { judgeLog } from './findings/judge.ts'
import type { Channel } from './samples.ts'

/** A channel without the values whose signal was too weak, and how many those are. */
export function withoutWeak(channel: Channel, qualityLimit: number): { channel: Channel; weak: number } {
  const { t, v, q } = channel
  if (!q) return { channel, weak: 0 }
  let weak = 0
  const left = Array.from(v, (x, i) => {
    const isWeak = x !== null && (q[i] ?? Infinity) < qualityLimit
    if (isWeak) weak++
    return isWeak ? null : x
  })
  return { channel: { t, v: left }, weak }
}

/** What can be held against another log, and what of it was left out because it measures nothing there. */
export interface UsableToCompare {
  readonly channel: Channel
  readonly leftOut: readonly LogFinding[]
  /** Step of a display as coarse as the scatter; 0 where it is finer. */
  readonly step: number
}

const FEWEST_LEFT = 2
const NOT_HELD = ['FROZEN', 'AT_LIMIT', 'SIGNAL_LOW'] as const
const isNotHeld = (f: LogFinding) => NOT_HELD.some((code) => code === f.code)

/** What of a log's findings bears on holding it against another one. */
export interface HeldBy {
  /** What measures nothing there. */
  readonly leftOut: readonly LogFinding[]
  /** Step of a display as coarse as the scatter; 0 where it is finer. */
  readonly step: number
}

/** Whether a log with these findings may be held against another one at all; else the sentence says why. */
export function heldBy(findings: readonly LogFinding[]): HeldBy | { says: string } {
  if (findings.some((f) => f.code === 'UNIT_CHANGED'))
    return { says: 'changes its unit in this stretch. Choose one on one side of the change.' }
  if (findings.some((f) => f.code === 'AT_LIMIT' && f.evidence['known'] !== true))
    return { says: 'is cut off: its values pile up at one level. Look for the limit.' }
  const coarse = findings.find((f) => f.code === 'QUANTISED')
  return { leftOut: findings.filter(isNotHeld), step: coarse ? Number(coarse.evidence['step']) : 0 }
}

interface Span {
  readonly from: number
  readonly to: number
}

/** Whether a time lies in one of many stretches. */
function withinAny(stretches: readonly Span[]): (t: number) => boolean {
  const apart: { from: number; to: number }[] = []
  for (const { from, to } of stretches.toSorted((x, y) => x.from - y.from)) {
    const last = apart.at(-1)
    if (last && from <= last.to) last.to = Math.max(last.to, to)
    else apart.push({ from, to })
  }
  return (t) => {
    let [low, high] = [0, apart.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if ((apart[middle]?.to ?? 0) < t) low = middle + 1
      else high = middle
    }
    return (apart[low]?.from ?? Infinity) <= t
  }
}

/** A channel without the values that are left out, and without those whose signal was too weak. */
export function withoutLeftOut(
  channel: Channel,
  leftOut: readonly Pick<LogFinding, 'code' | 'from' | 'to'>[],
  qualityLimit: number,
): Channel {
  const { t, v } = withoutWeak(channel, qualityLimit).channel
  const isOut = withinAny(leftOut.filter((f) => f.code !== 'SIGNAL_LOW'))
  return { t, v: Array.from(v, (x, i) => (isOut(t[i] ?? 0) ? null : x)) }
}

/**
 * A log as it may be held against another one: values that stand without their own noise, at a known limit, or with too
 * weak a signal are left out. None of it can be used behind a change of unit, or where something cuts it off that
 * nobody told.
 */
export function usableToCompare(
  channel: Channel,
  s: JudgeSettings,
): (HeldBy & { readonly channel: Channel }) | { says: string } {
  const held = heldBy(judgeLog(channel, s))
  if ('says' in held) return held
  const left = withoutLeftOut(channel, held.leftOut, s.qualityLimit)
  if (held.leftOut.length > 0 && Array.from(left.v).filter((x) => x !== null).length < FEWEST_LEFT)
    return {
      says: 'measures nothing in this stretch: it stands still, at a limit, or its signal is too weak.',
    }
  return { ...held, channel: left }
}
