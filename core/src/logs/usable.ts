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

/**
 * A log as it may be held against another one: values that stand without their own noise, at a known limit, or with too
 * weak a signal are left out. None of it can be used behind a change of unit, or where something cuts it off that
 * nobody told.
 */
export function usableToCompare(channel: Channel, s: JudgeSettings): UsableToCompare | { says: string } {
  const findings = judgeLog(channel, s)
  if (findings.some((f) => f.code === 'UNIT_CHANGED'))
    return { says: 'changes its unit in this stretch. Choose one on one side of the change.' }
  if (findings.some((f) => f.code === 'AT_LIMIT' && f.evidence['known'] !== true))
    return { says: 'is cut off: its values pile up at one level. Look for the limit.' }
  const leftOut = findings.filter(isNotHeld)
  const coarse = findings.find((f) => f.code === 'QUANTISED')
  const { channel: strong } = withoutWeak(channel, s.qualityLimit)
  const stretches = leftOut.filter((f) => f.code !== 'SIGNAL_LOW')
  const isOut = (t: number) => stretches.some((f) => t >= f.from && t <= f.to)
  const v = Array.from(strong.v, (x, i) => (isOut(strong.t[i] ?? 0) ? null : x))
  if (leftOut.length > 0 && v.filter((x) => x !== null).length < FEWEST_LEFT)
    return {
      says: 'measures nothing in this stretch: it stands still, at a limit, or its signal is too weak.',
    }
  return {
    channel: { t: strong.t, v },
    leftOut,
    step: coarse ? Number(coarse.evidence['step']) : 0,
  }
}
