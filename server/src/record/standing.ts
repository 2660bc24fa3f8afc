import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { LoopDocument } from '@calm/core/loop/document'
import { and, eq, or, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/pg-core'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { notFound } from '../http/problems.ts'
import { documentUnlessSeen, withDocument } from './documents.ts'
import type { AnyRun } from './fold.ts'
import { newestProcedures, runOfRow, type AdjustedRun, type ProcedureRow } from './runs.ts'
import { events, loopRevisions, loops, runs } from './schema.ts'

/** An event that is stored already, as far as telling a repeated send needs it. */
export type StoredAlready = Pick<
  typeof events.$inferSelect,
  'id' | 'loopId' | 'runId' | 'type' | 'by' | 'payload'
>

export interface StandingRun {
  readonly row: typeof runs.$inferSelect
  readonly any: AnyRun | null
  /** The signal path of the revision that it was begun on. */
  readonly path: LoopDocument['path']
}

/** All that accepting events of a loop has to know, read at once. */
export interface Standing {
  readonly document: LoopDocument
  /** Those asked for, wherever they are, and the loop's newest verification and procedure. */
  readonly runs: ReadonlyMap<string, StandingRun>
  readonly newest: Readonly<Record<AnyRun['kind'], string | null>>
  readonly stored: readonly StoredAlready[]
  /** The newest run of each procedure. */
  readonly procedures: readonly ProcedureRow[]
  /** Procedures that adjusted the device, and when. */
  readonly adjusted: readonly AdjustedRun[]
}

const began = alias(loopRevisions, 'began')

const newestOf = (kind: AnyRun['kind']) =>
  sql<
    string | null
  >`(select r.id from runs r where r.loop_id = ${loops.id} and r.kind = ${kind} order by r.started_at desc limit 1)`

const standingNow = prepared('standing', (db) =>
  db
    .select({
      ...documentUnlessSeen,
      verification: newestOf('verification'),
      procedure: newestOf('procedure'),
      stored: sql<
        StoredAlready[]
      >`(select coalesce(json_agg(json_build_object('id', e.id, 'loopId', e.loop_id, 'runId', e.run_id, 'type', e.type, 'by', e.by, 'payload', e.payload)), '[]') from events e where e.id = any(${sql.placeholder('eventIds')}::uuid[]))`,
      adjusted: sql<
        AdjustedRun[]
      >`(select coalesce(json_agg(json_build_object('id', r.id, 'at', r.adjusted_at)), '[]') from runs r where r.loop_id = ${loops.id} and r.adjusted_at is not null)`,
      procedures: newestProcedures(loops.id),
      run: runs,
      // Mostly the newest one, which is there already.
      began: sql<SavedLoopDocument | null>`case when ${runs.loopId} = ${loops.id} and ${runs.revision} = ${loops.revision} then null else ${began.document} end`,
    })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .leftJoin(
      runs,
      or(
        sql`${runs.id} = any(${sql.placeholder('runIds')}::uuid[])`,
        eq(runs.id, newestOf('verification')),
        eq(runs.id, newestOf('procedure')),
      ),
    )
    .leftJoin(began, and(eq(began.loopId, runs.loopId), eq(began.number, runs.revision)))
    .where(eq(loops.id, sql.placeholder('loopId'))),
)

/**
 * One statement, however long the record is. The loop's row is held by this transaction: read after that, what is
 * told here cannot change until its end.
 */
export async function standingOf(
  tx: Executor,
  loopId: string,
  eventIds: readonly string[],
  runIds: readonly string[],
): Promise<Standing> {
  const found = await withDocument(tx, loopId, (seen) =>
    standingNow(tx, { loopId, seen, eventIds: [...eventIds], runIds: [...runIds] }),
  )
  const [first] = found?.rows ?? []
  if (!found || !first) throw notFound('loop')
  const { rows, document } = found
  const standing = new Map<string, StandingRun>()
  for (const { run, began: older } of rows)
    if (run)
      standing.set(run.id, {
        row: run,
        any: await runOfRow(tx, run),
        path: (older ? currentLoopDocument(older) : document).path,
      })
  return {
    document,
    runs: standing,
    newest: { verification: first.verification, procedure: first.procedure },
    stored: first.stored,
    adjusted: first.adjusted,
    procedures: first.procedures,
  }
}
