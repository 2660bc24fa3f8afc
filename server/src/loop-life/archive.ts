import type { Person } from '@calm/contract/people'
import { archived, broughtBack } from '@calm/core/record/kinds/archived'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { conflict } from '../http/problems.ts'
import { tagIsFree } from '../loops/store.ts'
import { append, chainedAfter, holdLoop, storeChained } from '../record/append.ts'
import { loops, runs } from '../record/schema.ts'

/**
 * A procedure that goes on would be cut off; a verification that nobody finished stays as it is.
 * @throws HttpProblem 409
 */
async function refuseGoingOn(tx: Executor, loopIds: readonly string[]): Promise<void> {
  const [open] = await tx
    .select({ tag: loops.tag })
    .from(runs)
    .innerJoin(loops, eq(loops.id, runs.loopId))
    .where(and(inArray(runs.loopId, [...loopIds]), inArray(runs.state, ['running', 'aborting'])))
    .limit(1)
  if (open) throw conflict(`A procedure on ${open.tag} goes on: finish it, or end it, first.`)
}

/**
 * Takes loops out of use: their tags are free for others, their records stay and nothing is added to them.
 * @throws HttpProblem 409 where one is out of use already, or work on it goes on
 */
export async function archiveLoops(
  tx: Executor,
  loopIds: readonly string[],
  reason: string,
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<void> {
  const rows = await tx
    .select({
      id: loops.id,
      tag: loops.tag,
      seq: loops.lastSeq,
      hash: loops.lastHash,
      archivedAt: loops.archivedAt,
    })
    .from(loops)
    .where(inArray(loops.id, [...loopIds]))
    .orderBy(asc(loops.id))
    .for('update')
  const out = rows.find((r) => r.archivedAt !== null)
  if (out) throw conflict(`${out.tag} is out of use already.`)
  await refuseGoingOn(tx, loopIds)
  const chained = rows.flatMap(({ id, seq, hash }) =>
    chainedAfter(
      { loopId: id, seq, hash },
      [{ runId: null, type: archived.type, at, by: person.id, payload: { reason } }],
      at,
    ),
  )
  await storeChained(tx, chained)
  const ends = sql.join(
    chained.map((e) => sql`(${e.loopId}::uuid, ${e.seq}::int, ${e.hash})`),
    sql`, `,
  )
  await tx.execute(
    sql`update loops set archived_at = ${at.toISOString()}::timestamptz, last_seq = ends.seq, last_hash = ends.hash
        from (values ${ends}) as ends(id, seq, hash) where loops.id = ends.id`,
  )
}

/** The same of one, with its news. @returns its identifier */
export async function archiveLoop(
  tx: Executor,
  idOrTag: string,
  reason: string,
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<string> {
  const { row } = await holdLoop(tx, idOrTag)
  await archiveLoops(tx, [row.id], reason, person, at)
  await tellWindows(tx, { loopId: row.id, tag: row.tag, what: 'list' })
  return row.id
}

/**
 * Takes an archived loop into use again.
 * @throws HttpProblem 409 where it is in use, or another loop has its tag by now
 */
export async function bringLoopBack(
  tx: Executor,
  idOrTag: string,
  reason: string,
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<string> {
  const { row, head } = await holdLoop(tx, idOrTag, { evenArchived: true })
  if (row.archivedAt === null) throw conflict(`${row.tag} is in use already.`)
  await tagIsFree(tx, row.tag, row.id)
  await append(
    tx,
    head,
    [{ runId: null, type: broughtBack.type, at, by: person.id, payload: { reason } }],
    at,
  )
  await tx.update(loops).set({ archivedAt: null }).where(eq(loops.id, row.id))
  await tellWindows(tx, { loopId: row.id, tag: row.tag, what: 'list' })
  return row.id
}
