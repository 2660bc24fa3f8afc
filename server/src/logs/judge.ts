import { channelOf } from '@calm/core/logs/blocks'
import { type JudgeSettings, USUAL_JUDGEMENT } from '@calm/core/logs/findings/finding'
import { judgeLog } from '@calm/core/logs/findings/judge'
import { judgePart } from '@calm/core/logs/parts/judge-part'
import type { PartJudged } from '@calm/core/logs/parts/piece'
import { stableStretches } from '@calm/core/logs/stable-stretches'
import { statisticsOf } from '@calm/core/logs/statistics'
import { totalOf } from '@calm/core/logs/total'
import { withoutWeak } from '@calm/core/logs/usable'
import type { LogJudgement } from '@calm/contract/logs'
import type { HeldAgainst } from './held-against.ts'
import type { PartToJudge, ToJudge } from './work.ts'

/** Usual steps between samples from which on one is missing. */
const GAP_FACTOR = USUAL_JUDGEMENT.gapFactor

/** The rules a log is judged by, held against the range of its loop. */
export const settingsOf = (against: HeldAgainst | null, spikeK: number | undefined): JudgeSettings => ({
  ...USUAL_JUDGEMENT,
  range: against ? { lo: against.lo, hi: against.hi } : undefined,
  spikeK: spikeK ?? USUAL_JUDGEMENT.spikeK,
})

/** A stretch of a channel: what it amounts to, what it has, where it stands still, what it totals. */
export function judgedStretch(asked: ToJudge): Omit<LogJudgement, 'most' | 'against' | 'parts'> {
  const { from, to, against, per, spikeK } = asked
  const { t, v } = channelOf(asked.samples, from, to)
  const q = asked.quality ? channelOf(asked.quality, from, to).v : null
  // A value whose signal was too weak is in none of the numbers.
  const { channel, weak } = withoutWeak({ t, v, q }, USUAL_JUDGEMENT.qualityLimit)
  const s = statisticsOf(channel)
  const findings = judgeLog({ t, v, q }, settingsOf(against, spikeK)).map((f) => ({
    ...f,
    evidence: { ...f.evidence },
  }))
  const still = against?.T ? stableStretches(channel, against.tau, against.T) : null
  const total =
    per === null
      ? null
      : totalOf(channel, { per, cutoff: 0, gap: 'refuse', gapFactor: GAP_FACTOR, uReading: 0, uZero: 0 })
  return {
    statistics: s && {
      n: s.n,
      mean: s.mean,
      sd: s.sd,
      min: s.min,
      max: s.max,
      from: s.from,
      to: s.to,
      close: { ...s, nulls: s.nulls - weak, weak },
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

/** A part of a long stretch: what it has of its own. */
export function judgedPart(asked: PartToJudge): PartJudged {
  const { from, to, against, per, spikeK, own } = asked
  const { t, v } = channelOf(asked.samples, from, to)
  const q = asked.quality ? channelOf(asked.quality, from, to).v : null
  return judgePart({ t, v, q }, own, settingsOf(against, spikeK), {
    per,
    still: against?.T ? { tau: against.tau, T: against.T } : null,
  })
}
