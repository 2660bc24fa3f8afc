import type { Arrived, Pace } from '../samples.ts'
import { joinedRuns, type JudgeSettings, type LogFinding } from './finding.ts'

const FEWEST_LOW = 5

/** What the times of a log and its signal quality say, whatever its values are. */
export function findingsOfTime(a: Arrived, pace: Pace, s: JudgeSettings): LogFinding[] {
  return [...backwards(a), ...duplicates(a, s.join), ...gaps(a, pace), ...lowSignal(a, s)]
}

function backwards(a: Arrived): LogFinding[] {
  return joinedRuns(a.n, (i) => a.arrival[i] === 'backwards', 0).map(({ from, to, count }) => {
    let least = Infinity
    for (let i = from; i <= to; i++) least = Math.min(least, a.t[i] ?? least)
    const before = a.latest[from] ?? 0
    return {
      code: 'BACKWARDS',
      from: least,
      to: before,
      evidence: { samples: count, back_ms: before - (a.t[from] ?? 0) },
    }
  })
}

function duplicates(a: Arrived, join: number): LogFinding[] {
  const isDouble = (i: number) => a.arrival[i] === 'duplicate'
  return joinedRuns(a.n, isDouble, join).map(({ from, to, count }) => {
    let conflicting = 0
    for (let i = from; i <= to; i++) if (isDouble(i) && a.v[i] !== a.v[i - 1]) conflicting++
    return {
      code: 'DUPLICATE',
      from: a.t[from] ?? 0,
      to: a.t[to] ?? 0,
      evidence: { samples: count, conflicting },
    }
  })
}

function gaps(a: Arrived, pace: Pace): LogFinding[] {
  const found: LogFinding[] = []
  for (let i = 1; i < a.n; i++) {
    const [from, to] = [a.latest[i] ?? 0, a.t[i] ?? 0]
    if (a.arrival[i] !== 'forward' || !(to - from > pace.gapAbove)) continue
    const missing = Math.round((to - from) / pace.interval) - 1
    found.push({ code: 'GAP', from, to, evidence: { seconds: (to - from) / 1000, missing } })
  }
  return found
}

function lowSignal(a: Arrived, s: JudgeSettings): LogFinding[] {
  const { q } = a
  if (!q) return []
  const isLow = (i: number) => (q[i] ?? NaN) < s.qualityLimit
  return joinedRuns(a.n, isLow, s.join)
    .filter((r) => r.count >= FEWEST_LOW)
    .map(({ from, to, count }) => {
      let [lowest, sum] = [Infinity, 0]
      for (let i = from; i <= to; i++) {
        if (!isLow(i)) continue
        lowest = Math.min(lowest, q[i] ?? lowest)
        sum += q[i] ?? 0
      }
      return {
        code: 'SIGNAL_LOW',
        from: a.t[from] ?? 0,
        to: a.t[to] ?? 0,
        evidence: { samples: count, lowest, mean: sum / count },
      }
    })
}
