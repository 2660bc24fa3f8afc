import type { News } from '@calm/contract/api/news'
import type { LoopSummary } from '@calm/core/loop/summary'
import type { ChainedEvent } from '@calm/core/record/hash-chain'
import { eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { newsText, telling } from '../http/live.ts'
import { eventsText, storing, type ChainHead } from './append.ts'
import type { columnsOf } from './project.ts'
import { loops, runs } from './schema.ts'
import { shownColumns } from './shown-columns.ts'

const given = (name: string) => sql.placeholder(name)
const inOne = prepared('step_stored', (db) => {
  const written = db.$with('written', {}).as(storing(given('events')))
  const ran = db.$with('ran').as(
    db
      .update(runs)
      .set({
        state: sql`${given('state')}`,
        verdict: sql`${given('verdict')}`,
        folded: sql`${given('folded')}::jsonb`,
        adjustedAt: sql`${given('adjustedAt')}::timestamptz`,
        errors: sql`${given('errors')}::jsonb`,
      })
      .where(eq(runs.id, given('runId')))
      .returning({ id: runs.id }),
  )
  return db
    .with(written, ran)
    .update(loops)
    .set({
      lastSeq: sql`${given('seq')}::integer`,
      lastHash: sql`${given('hash')}`,
      summary: sql`${given('summary')}::jsonb`,
      lastCalibrated: sql`${given('lastCalibrated')}::date`,
      dueNow: sql`${given('dueNow')}::date`,
    })
    .where(eq(loops.id, given('loopId')))
    .returning({ told: telling(given('news')) })
})

/** What one act at a run changes: its events, its row, the loop's, and the news of it. */
interface Step {
  readonly id: string
  readonly columns: ReturnType<typeof columnsOf>
  readonly events: readonly ChainedEvent[]
  readonly head: ChainHead
  readonly summary: LoopSummary
  readonly news: Omit<News, 'window'>
}

/** Stores them in one statement: a hundred people at work take a step every other second each. */
export async function storeStep(
  tx: Executor,
  { id, columns, events, head, summary, news }: Step,
): Promise<void> {
  const shown = shownColumns(summary)
  await inOne(tx, {
    events: eventsText(events),
    runId: id,
    state: columns.state,
    verdict: columns.verdict,
    folded: JSON.stringify(columns.folded),
    adjustedAt: columns.adjustedAt?.toISOString() ?? null,
    errors: columns.errors ? JSON.stringify(columns.errors) : null,
    seq: head.seq,
    hash: head.hash,
    summary: JSON.stringify(shown.summary),
    lastCalibrated: shown.lastCalibrated,
    dueNow: shown.dueNow,
    loopId: head.loopId,
    news: newsText(news),
  })
}
