import { channelOf } from '@calm/core/logs/blocks'
import { compareLogs, type NotCompared } from '@calm/core/logs/compare/compare'
import { USUAL_JUDGEMENT } from '@calm/core/logs/findings/finding'
import { judgeLog } from '@calm/core/logs/findings/judge'
import { stableStretches } from '@calm/core/logs/stable-stretches'
import { statisticsOf } from '@calm/core/logs/statistics'
import { totalOf } from '@calm/core/logs/total'
import type { LogComparison, LogJudgement } from '@calm/contract/logs'
import type { ToCompare, ToJudge } from './work.ts'

/** A stretch of a channel: what it amounts to, what it has, where it stands still, what it totals. */
export function judgedStretch(asked: ToJudge): Omit<LogJudgement, 'most' | 'against'> {
  const { from, to, against, per, spikeK } = asked
  const { t, v } = channelOf(asked.samples, from, to)
  const q = asked.quality ? channelOf(asked.quality, from, to).v : null
  const s = statisticsOf({ t, v })
  const range = against ? { lo: against.lo, hi: against.hi } : undefined
  const settings = { ...USUAL_JUDGEMENT, range, spikeK: spikeK ?? USUAL_JUDGEMENT.spikeK }
  const findings = judgeLog({ t, v, q }, settings).map((f) => ({ ...f, evidence: { ...f.evidence } }))
  const still = against?.T ? stableStretches({ t, v }, against.tau, against.T) : null
  const total =
    per === null
      ? null
      : totalOf({ t, v }, { per, cutoff: 0, gap: 'refuse', gapFactor: 5, uReading: 0, uZero: 0 })
  return {
    statistics: s && {
      n: s.n,
      mean: s.mean,
      sd: s.sd,
      min: s.min,
      max: s.max,
      from: s.from,
      to: s.to,
      close: s,
    },
    findings,
    stable: still && { count: still.stretches.length, seconds: still.seconds },
    total: total && {
      forward: total.forward,
      reverse: total.reverse,
      net: total.net,
      U: total.U,
      complete: total.complete,
      gaps: total.gaps.length,
    },
  }
}

/** Two stretches of one time compared. */
export function comparedStretch(asked: ToCompare): Omit<LogComparison, 'unit'> | NotCompared {
  const { from, to, maxLag, Ua, Ub, against } = asked
  const told = compareLogs(channelOf(asked.a, from, to), channelOf(asked.b, from, to), {
    maxLag_s: maxLag,
    ratio: 1,
    Ua,
    Ub,
    ...(against?.T ? { tau: against.tau, T: against.T } : {}),
    gapFactor: 5,
  })
  return 'says' in told
    ? told
    : { ...told, limits: [...told.limits], byStretch: told.byStretch && [...told.byStretch.points] }
}
