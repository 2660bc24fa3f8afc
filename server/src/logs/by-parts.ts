import { BLOCK } from '@calm/core/logs/blocks'
import { judgeParts, totalOfParts } from '@calm/core/logs/parts/judge-parts'
import type { PartJudged } from '@calm/core/logs/parts/piece'
import { partsOf } from '@calm/core/logs/parts/seams'
import { median } from '@calm/core/numeric/median'
import type { Log, LogJudgement } from '@calm/contract/logs'
import type { Progress } from '@calm/contract/api/news'
import { LRUCache } from 'lru-cache'
import type pg from 'pg'
import { conflict } from '../http/problems.ts'
import { inItsTurn } from '../work/patient.ts'
import type { Pool } from '../work/pool.ts'
import { settingsOf } from './judge.ts'
import { qualityChannelOf, samplesOfBlocks, spansBetween, type Stretch } from './samples.ts'
import { judgeOnePart, type PartToJudge } from './work.ts'

async function onePart(pool: Pool, part: PartToJudge, signal: AbortSignal): Promise<PartJudged> {
  const judged = await inItsTurn(pool, judgeOnePart, part, signal)
  if (!judged) throw conflict('A part of this stretch cannot be judged in a minute: choose a shorter one.')
  return judged
}

/** What parts came to together, and the usual time from one sample to the next, ms. */
export interface JudgedByParts extends Pick<LogJudgement, 'findings' | 'stable' | 'total' | 'parts'> {
  readonly interval_ms: number
}

/** Parts that were judged: who gave up, or was cut off, goes on where it stopped. */
const MOST_KEPT = 200

/**
 * Judges a stretch that is too long to be judged at once, part by part, one at a time: others are answered in between.
 * @param most - rows that are judged at once
 */
export function judgerByParts(clients: pg.Pool, pool: Pool) {
  const known = new LRUCache<string, PartJudged>({ max: MOST_KEPT })
  return async (
    log: Log,
    stretch: Stretch,
    asked: Pick<PartToJudge, 'from' | 'to' | 'against' | 'per' | 'spikeK'>,
    most: number,
    { gone, tell }: { readonly gone: AbortSignal; readonly tell: (p: Progress) => void },
  ): Promise<JudgedByParts> => {
    const spans = await spansBetween(clients, stretch, asked.from, asked.to)
    const parts = partsOf(spans, most - BLOCK)
    if (!parts)
      throw conflict(
        'The clock of this stretch went back too far for its parts to be told from each other: choose a shorter one.',
      )
    const quality = qualityChannelOf(log, stretch.channel)
    const judged: PartJudged[] = []
    for (const p of parts) {
      tell({ done: judged.length, of: parts.length })
      const own = {
        from: p.own === 0 ? -Infinity : (spans[p.own]?.from ?? 0),
        to: spans[p.end]?.from ?? Infinity,
      }
      const key = JSON.stringify([stretch, asked, String(own.from), String(own.to)])
      let told = known.get(key)
      if (!told) {
        const blocks = spans.slice(p.first, p.last).map((b) => b.block)
        const samplesOf = (channel: number) => samplesOfBlocks(clients, { log: log.id, channel }, blocks)
        const samples = await samplesOf(stretch.channel)
        const signal = quality === null ? null : await samplesOf(quality)
        told = await onePart(pool, { ...asked, samples, quality: signal, own }, gone)
        known.set(key, told)
      }
      judged.push(told)
    }
    const stable = judged.flatMap((p) => p.stable ?? [])
    return {
      parts: parts.length,
      interval_ms: median(judged.map((p) => p.interval_ms)),
      findings: judgeParts(judged, settingsOf(asked.against, asked.spikeK)).map((f) => ({
        ...f,
        evidence: { ...f.evidence },
      })),
      total: totalOfParts(judged),
      stable:
        stable.length < judged.length
          ? null
          : {
              count: stable.reduce((n, s) => n + s.count, 0),
              seconds: stable.reduce((n, s) => n + s.seconds, 0),
            },
    }
  }
}
