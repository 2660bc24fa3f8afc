import type { Progress } from '@calm/contract/api/news'
import type { LogComparison } from '@calm/contract/logs'
import type { Connection } from '../db/connection.ts'
import { conflict } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { comparerByParts } from './compare-parts.ts'
import { heldAgainst } from './held-against.ts'
import { type JudgeLogs, MOST_JUDGED } from './judgement.ts'
import { qualityBetween, rowsBetween, samplesBetween, type Stretch } from './samples.ts'
import { type CompareTwo, inUnit } from './two.ts'
import { compareStretch } from './work.ts'

/** Compares two kept logs of a loop in the unit of the first: at once where neither is too long, else part by part. */
export function logCompare(connection: Connection, pool: Pool, judge: JudgeLogs) {
  const { db, pool: clients } = connection
  const byParts = comparerByParts(clients, pool, judge)
  return async (
    loopId: string,
    asked: CompareTwo,
    gone: AbortSignal,
    tell: (p: Progress) => void,
  ): Promise<LogComparison> => {
    const { a, b, from, to, maxLag, Ua, Ub } = asked
    // What cannot be held against the other is told before anything is read or judged.
    inUnit(Float64Array.of(0, 1), b.unit, a.unit)
    const against = heldAgainst((await loopDetail(db, loopId)).document, a.unit)
    const [ra, rb] = [a, b].map((s) => ({ log: s.log.id, channel: s.channel })) as [Stretch, Stretch]
    const rows = await Promise.all([ra, rb].map((r) => rowsBetween(clients, r, from, to)))
    if (Math.max(...rows) > MOST_JUDGED) {
      const told = await byParts(loopId, asked, against, gone, tell)
      if ('says' in told) throw conflict(told.says)
      return { ...told, unit: a.unit }
    }
    const [sa, sb] = await Promise.all([
      samplesBetween(clients, ra, from, to),
      samplesBetween(clients, rb, from, to),
    ])
    const told = resultOf(
      await pool.run(
        compareStretch,
        {
          ...{ a: sa, b: inUnit(sb, b.unit, a.unit), from, to, maxLag, Ua, Ub, against },
          qualityOfA: await qualityBetween(clients, a.log, a.channel, from, to),
          qualityOfB: await qualityBetween(clients, b.log, b.channel, from, to),
        },
        { signal: gone },
      ),
    )
    if (!told) throw conflict('These stretches cannot be compared in a minute: choose shorter ones.')
    if ('says' in told) throw conflict(told.says)
    return { ...told, parts: null, unit: a.unit }
  }
}
