import type { RunInfo } from '@calm/contract/events'
import { isForeignAuthor } from '@calm/core/signing/authors'
import type { PastErrors } from '@calm/core/record/loop-drift'
import { pastEntered } from '@calm/core/record/kinds/past-entered'
import { joinedPast, pastOfEntered } from '@calm/core/record/past/certificates'
import type { Run } from '@calm/core/record/run'
import type { ProcedureStands } from '@calm/core/loop/summary'
import { outcomeOf } from '@calm/core/procedure/closing'
import { wrote } from '@calm/core/procedure/outcome'
import { and, asc, desc, eq, isNotNull, sql, type SQLWrapper } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { isoInstant } from '../db/time.ts'
import { notFound } from '../http/problems.ts'
import { authorsOf, takenOf, type Authors } from './authors.ts'
import { eventsOfKind, eventsOfRun } from './events.ts'
import { foldEvents, fromKept, type AnyRun } from './fold.ts'
import { loops, runs } from './schema.ts'

type Row = typeof runs.$inferSelect

const rowOfRun = prepared('row_of_run', (db) =>
  db
    .select()
    .from(runs)
    .where(eq(runs.id, sql.placeholder('runId'))),
)
/** The row of a run. @throws HttpProblem 404 */
export async function runRow(db: Executor, runId: string): Promise<Row> {
  const [row] = await rowOfRun(db, { runId })
  if (!row) throw notFound('run')
  return row
}

/** A run as it stands: as it was kept beside its row, else folded from its events. Null where it has none. */
export async function runOfRow(
  db: Executor,
  row: Pick<Row, 'id' | 'loopId' | 'folded'>,
): Promise<AnyRun | null> {
  return fromKept(row.folded) ?? foldEvents(await eventsOfRun(db, row.id), await takenOf(db, row.loopId))
}

async function newestRow(db: Executor, loopId: string, kind: AnyRun['kind']): Promise<Row | null> {
  const [row] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.loopId, loopId), eq(runs.kind, kind)))
    .orderBy(desc(runs.startedAt))
    .limit(1)
  return row ?? null
}

/** The newest verification of a loop; null when there is none. */
export async function newestVerification(db: Executor, loopId: string): Promise<Run | null> {
  const row = await newestRow(db, loopId, 'verification')
  const any = row && (await runOfRow(db, row))
  return any?.kind === 'verification' ? any.run : null
}

export const procedureStands = (any: AnyRun | null): ProcedureStands | null =>
  any?.kind === 'procedure'
    ? {
        procedure: any.run.started.procedure,
        startedAt: any.run.startedAt,
        state: any.run.state,
        result: outcomeOf(any.run)?.result ?? null,
        foreign: isForeignAuthor(any.run.startedBy),
      }
    : null

/** A procedure as its row tells it; whether it is foreign, its events tell alone. */
export interface ProcedureRow {
  readonly id: string
  readonly procedure: string
  readonly startedAt: string
  readonly state: ProcedureStands['state']
  readonly result: ProcedureStands['result']
}
/** The newest run of every procedure that was done on a loop, as a subquery. */
export const newestProcedures = (loopId: SQLWrapper) =>
  sql<
    ProcedureRow[]
  >`(select coalesce(json_agg(json_build_object('id', p.id, 'procedure', p.procedure, 'startedAt', p.started_at, 'state', p.state, 'result', p.verdict)), '[]') from (select distinct on (r.procedure) r.* from runs r where r.loop_id = ${loopId} and r.kind = 'procedure' and not (r.state = 'aborted' and r.verdict = 'notDone') order by r.procedure, r.started_at desc) p)`

/** How the loop's procedures stand: by their rows, and by those that change just now. */
export function standOf(
  rows: readonly ProcedureRow[],
  folded: ReadonlyMap<string, AnyRun | null>,
): ProcedureStands[] {
  const now = [...folded.values()].flatMap((any) => procedureStands(any) ?? [])
  const before = rows
    .filter((r) => !folded.has(r.id))
    .map(({ procedure, state, result, startedAt }) => ({
      procedure,
      state,
      result,
      startedAt: isoInstant(new Date(startedAt)),
      foreign: false,
    }))
  return [...now, ...before]
}

/** A run that adjusted the loop's device, and when it wrote last. */
export interface AdjustedRun {
  readonly id: string
  readonly at: string
}
export async function adjustedRunsOf(db: Executor, loopId: string): Promise<AdjustedRun[]> {
  const rows = await db
    .select({ id: runs.id, at: runs.adjustedAt })
    .from(runs)
    .where(and(eq(runs.loopId, loopId), isNotNull(runs.adjustedAt)))
  return rows.flatMap((r) => (r.at ? [{ id: r.id, at: isoInstant(r.at) }] : []))
}
/**
 * When a procedure adjusted the loop's device last; null where none did.
 * @param folded - runs as they stand after what is being stored
 */
export function adjustedAtOf(
  stored: readonly AdjustedRun[],
  folded: ReadonlyMap<string, AnyRun | null> = new Map(),
): string | null {
  const before = stored.flatMap((r) => (folded.has(r.id) ? [] : [isoInstant(new Date(r.at))]))
  const now = [...folded.values()].flatMap((any) => {
    if (any?.kind !== 'procedure' || !wrote(any.run)) return []
    const last = any.run.done.findLast((d) => d.step.kind === 'write')
    return last ? [isoInstant(new Date(last.at))] : []
  })
  return [...before, ...now].sort().at(-1) ?? null
}

/** How the procedures of a loop stand: the newest of all folded, the others by their rows. */
export async function proceduresOf(db: Executor, loopId: string): Promise<ProcedureStands[]> {
  const [row] = await db
    .select({ rows: newestProcedures(loops.id) })
    .from(loops)
    .where(eq(loops.id, loopId))
  const newest = await newestRow(db, loopId, 'procedure')
  const folded = new Map(newest ? [[newest.id, await runOfRow(db, newest)] as const] : [])
  return standOf(row?.rows ?? [], folded)
}

/** Errors of a loop's closed verifications, and of the certificates from before them, oldest first. */
export async function pastErrorsOf(db: Executor, loopId: string): Promise<PastErrors[]> {
  const rows = await db
    .select({ errors: runs.errors })
    .from(runs)
    .where(and(eq(runs.loopId, loopId), isNotNull(runs.errors)))
    .orderBy(asc(runs.startedAt))
  const entered = (await eventsOfKind(db, loopId, pastEntered.type)).map((e) =>
    pastEntered.payload.parse(e.payload),
  )
  return joinedPast(
    rows.flatMap((r) => r.errors ?? []),
    pastOfEntered(entered),
  )
}

/** One run as lists show it. */
export async function runInfo(db: Executor, row: Row, { name }: Pick<Authors, 'name'>): Promise<RunInfo> {
  const author = (await runOfRow(db, row))?.run.startedBy ?? row.startedBy
  const { id, loopId, procedure, state, verdict, revision } = row
  return {
    id,
    loopId,
    kind: row.kind === 'procedure' ? 'procedure' : 'verification',
    procedure,
    state,
    verdict,
    revision,
    startedAt: isoInstant(row.startedAt),
    startedBy: name(author),
    foreign: isForeignAuthor(author),
  }
}

/** The runs of a loop as lists show them, newest first. */
export async function runsOfLoop(db: Executor, loopId: string): Promise<RunInfo[]> {
  const rows = await db.select().from(runs).where(eq(runs.loopId, loopId)).orderBy(desc(runs.startedAt))
  const authors = await authorsOf(db, loopId)
  return Promise.all(rows.map((row) => runInfo(db, row, authors)))
}
