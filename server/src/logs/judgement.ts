import type { Log, LogJudgement } from '@calm/contract/logs'
import type { Connection } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { heldAgainst, perOf } from './held-against.ts'
import { qualityBetween, rowsBetween, samplesBetween } from './samples.ts'
import type { LogViews } from './view.ts'
import { judgeStretch } from './work.ts'

/** Most samples that are judged or compared at once: a second of work. */
export const MOST_JUDGED = 1_000_000

/** A stretch of a kept log: summed up always, judged where it is not too long. */
export async function judgementOf(
  { db, pool: clients }: Connection,
  pool: Pool,
  views: LogViews,
  loopId: string,
  log: Log,
  q: {
    readonly channel: number
    readonly from: number
    readonly to: number
    readonly spikeK?: number | undefined
  },
  gone: AbortSignal,
): Promise<LogJudgement> {
  const { channel, from, to, spikeK } = q
  const shown = log.channels[channel]
  const unit = shown?.unit ?? null
  // The percent of a signal's quality are none of the loop's own.
  const against =
    shown?.kind === 'quality' ? null : heldAgainst((await loopDetail(db, loopId)).document, unit)
  const stretch = { log: log.id, channel }
  if ((await rowsBetween(clients, stretch, from, to)) > MOST_JUDGED) {
    const s = await views.sums(log.id, channel, from, to)
    const statistics = s && {
      ...s,
      from: Math.max(from, log.from ?? from),
      to: Math.min(to, log.to ?? to),
      close: null,
    }
    return { statistics, findings: null, stable: null, total: null, most: MOST_JUDGED, against }
  }
  const told = resultOf(
    await pool.run(
      judgeStretch,
      {
        samples: await samplesBetween(clients, stretch, from, to),
        quality: await qualityBetween(clients, log, channel, from, to),
        ...{ from, to, against, per: perOf(unit), spikeK },
      },
      { signal: gone },
    ),
  )
  if (!told) throw conflict('This stretch cannot be judged in a minute: choose a shorter one.')
  return { ...told, most: MOST_JUDGED, against }
}
