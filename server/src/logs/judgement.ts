import type { Progress } from '@calm/contract/api/news'
import type { Log, LogJudgement } from '@calm/contract/logs'
import { LRUCache } from 'lru-cache'
import type { Connection } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { type JudgedByParts, judgerByParts } from './by-parts.ts'
import { heldAgainst, perOf } from './held-against.ts'
import { qualityBetween, rowsBetween, samplesBetween } from './samples.ts'
import type { LogViews } from './view.ts'
import { judgeStretch } from './work.ts'

/** Most samples that are judged or compared at once: a few seconds of work. */
export const MOST_JUDGED = 1_000_000
/** Long stretches whose judgement is at hand: a paper of one is printed without judging it again. */
const MOST_KEPT = 100

interface Asked {
  readonly channel: number
  readonly from: number
  readonly to: number
  readonly spikeK?: number | undefined
}
const NOT_JUDGED = { findings: null, stable: null, total: null, parts: null, interval_ms: null }
/** A judgement, and the usual time from one sample to the next, ms; null: not judged, or no sample. */
export type Judged = LogJudgement & { readonly interval_ms: number | null }

export type JudgeLogs = ReturnType<typeof logJudge>

/** Judges stretches of kept logs: summed up always, judged at once where one is not too long, else when asked by parts. */
export function logJudge({ db, pool: clients }: Connection, pool: Pool, views: LogViews) {
  const judgedByParts = judgerByParts(clients, pool)
  /** A kept log never changes; what it is held against may. */
  const known = new LRUCache<string, JudgedByParts>({ max: MOST_KEPT })
  return async (
    loopId: string,
    log: Log,
    { channel, from, to, spikeK }: Asked,
    gone: AbortSignal,
    /** Asks for a judgement by parts, and hears how far it is. */
    tell?: (p: Progress) => void,
  ): Promise<Judged> => {
    const shown = log.channels[channel]
    const unit = shown?.unit ?? null
    // The percent of a signal's quality are none of the loop's own.
    const against =
      shown?.kind === 'quality' ? null : heldAgainst((await loopDetail(db, loopId)).document, unit)
    const stretch = { log: log.id, channel }
    const asked = { from, to, against, per: perOf(unit), spikeK }
    if ((await rowsBetween(clients, stretch, from, to)) > MOST_JUDGED) {
      const s = await views.sums(log.id, channel, from, to)
      const statistics = s && {
        ...s,
        from: Math.max(from, log.from ?? from),
        to: Math.min(to, log.to ?? to),
        close: null,
      }
      const key = JSON.stringify([stretch, asked])
      let told = known.get(key)
      if (!told && tell) {
        told = await judgedByParts(log, stretch, asked, MOST_JUDGED, { gone, tell })
        known.set(key, told)
      }
      return { statistics, ...(told ?? NOT_JUDGED), most: MOST_JUDGED, against }
    }
    const samples = await samplesBetween(clients, stretch, from, to)
    const quality = await qualityBetween(clients, log, channel, from, to)
    const told = resultOf(await pool.run(judgeStretch, { samples, quality, ...asked }, { signal: gone }))
    if (!told) throw conflict('This stretch cannot be judged in a minute: choose a shorter one.')
    const interval_ms = told.statistics?.close?.interval ?? null
    return { ...told, parts: null, most: MOST_JUDGED, against, interval_ms }
  }
}
