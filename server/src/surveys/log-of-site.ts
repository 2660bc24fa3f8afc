import { wallOf } from '@calm/core/today/wall-time'
import { BLOCK } from '@calm/core/logs/blocks'
import { sayFindings } from '@calm/core/logs/say-finding'
import { printedUnit } from '@calm/core/quantity/units'
import type { LogOfSite } from '@calm/core/survey/site-shape'
import type { Connection } from '../db/connection.ts'
import { floatsOf } from '../logs/floats.ts'
import { logJudge } from '../logs/judgement.ts'
import { keptLogOf } from '../logs/store.ts'
import { logViews } from '../logs/view.ts'
import type { Pool } from '../work/pool.ts'

/** A signal of at least this much is heard, %. */
const HEARD_PCT = 50
const MOST_TOLD = 20

/** Share of the samples of a channel that are at least so much; null where there is none. */
async function shareAbove(connection: Connection, log: string, channel: number): Promise<number | null> {
  let [n, heard] = [0, 0]
  for (let block = 0; ; block += BLOCKS_AT_ONCE) {
    const { rows } = await connection.pool.query<{ samples: Buffer }>(
      `select samples from log_blocks where log_id = $1 and channel = $2 and block >= $3 and block < $4
       order by block`,
      [log, channel, block, block + BLOCKS_AT_ONCE],
    )
    if (rows.length === 0) break
    for (const r of rows) {
      const pairs = floatsOf(r.samples)
      for (let i = 1; i < pairs.length; i += 2) {
        const q = pairs[i] ?? NaN
        if (Number.isNaN(q)) continue
        n++
        if (q >= HEARD_PCT) heard++
      }
    }
  }
  return n === 0 ? null : (100 * heard) / n
}
/** However long a log is, no more of it is in memory. */
const BLOCKS_AT_ONCE = Math.ceil(200_000 / BLOCK)

/** The day on which somebody stood there, by the clock of the log. */
const dayOf = (ms: number, zone: string) => wallOf(ms, zone).day

/** What a whole log says of the place where it was recorded. @throws HttpProblem 404, 409 while it is being read in */
export async function logOfSite(
  connection: Connection,
  pool: Pool,
  loopId: string,
  id: string,
  gone: AbortSignal,
): Promise<LogOfSite> {
  const log = await keptLogOf(connection.db, loopId, id)
  const quality = log.channels.findIndex((c) => c.kind === 'quality')
  const at = Math.max(
    0,
    log.channels.findIndex((c) => c.kind === 'value'),
  )
  const channel = log.channels[at]
  const judge = logJudge(connection, pool, logViews(connection.pool))
  const j = await judge(loopId, log, { channel: at, from: log.from ?? 0, to: log.to ?? 1 }, gone)
  const unit = channel?.unit ? printedUnit(channel.unit) : null
  const found = j.findings && sayFindings(j.findings, unit ?? '')
  const says = (severity: 'stop' | 'warn') =>
    found && found.filter((f) => f.severity === severity).map((f) => f.says)
  return {
    id,
    title: log.title,
    rows: log.rows,
    unread: log.wrongCount,
    simulated: log.simulated,
    of: log.of,
    days:
      log.relative || log.from === null || log.to === null
        ? null
        : [dayOf(log.from, log.zone), dayOf(log.to, log.zone)],
    channel: channel?.name ?? '',
    unit,
    mean: j.statistics?.mean ?? null,
    U: j.statistics?.close ? 2 * j.statistics.close.uMean : null,
    heard_pct: quality < 0 ? null : await shareAbove(connection, id, quality),
    stops: says('stop')?.slice(0, MOST_TOLD) ?? null,
    looks: says('warn')?.slice(0, MOST_TOLD) ?? null,
  }
}
