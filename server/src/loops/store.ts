import type { LoopsAsked } from '@calm/contract/api/page'
import type { LoopDetail, LoopRow, Revision, RevisionConflict } from '@calm/contract/loops'
import type { Person } from '@calm/contract/people'
import { currentLoopDocument } from '@calm/contract/saved/loop-document'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { CHAIN_START } from '@calm/core/record/hash-chain'
import type { LoopDocument } from '@calm/core/loop/document'
import { archived, archivedSince, broughtBack } from '@calm/core/record/kinds/archived'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import { loopDrift } from '@calm/core/record/loop-drift'
import { summarise } from '@calm/core/loop/summary'
import { shownColumns } from '../record/shown-columns.ts'
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import {
  append,
  chainedAfter,
  holdLoop,
  storeChained,
  isIdentifier,
  whichLoop,
  type Happening,
} from '../record/append.ts'
import { sha256 } from '../record/digest.ts'
import { authorsOf } from '../record/authors.ts'
import { documentOf } from '../record/documents.ts'
import { eventsOfKind } from '../record/events.ts'
import { newestOfInput } from '../record/newest-input.ts'
import {
  adjustedAtOf,
  adjustedRunsOf,
  newestVerification,
  pastErrorsOf,
  proceduresOf,
} from '../record/runs.ts'
import { loopRevisions, loops } from '../record/schema.ts'

const listed = {
  id: loops.id,
  tag: loops.tag,
  service: loops.service,
  area: loops.area,
  assignee: loops.assignee,
  type: loops.type,
  revision: loops.revision,
  demo: loops.demo,
  summary: loops.summary,
  lastCalibrated: loops.lastCalibrated,
  due: loops.due,
  archivedAt: loops.archivedAt,
}
const told = <R extends { readonly archivedAt: Date | null }>({ archivedAt, ...row }: R) => ({
  ...row,
  archivedAt: archivedAt && isoInstant(archivedAt),
})

/** The plant's list by area, or a part of it: what is in use, or what is archived. */
export async function allLoops(
  db: Executor,
  { from, most, archived }: LoopsAsked = { from: 0, archived: 'no' },
): Promise<LoopRow[]> {
  const all = db
    .select(listed)
    .from(loops)
    .where(archived === 'yes' ? isNotNull(loops.archivedAt) : isNull(loops.archivedAt))
    .orderBy(asc(loops.area), asc(loops.tag))
    .offset(from)
  return (await (most === undefined ? all : all.limit(most))).map(told)
}

/** The loop's identifier from its identifier or its tag, whatever the case. */
export async function loopIdOf(db: Executor, idOrTag: string): Promise<string> {
  const [row] = await db.select({ id: loops.id }).from(loops).where(whichLoop(idOrTag))
  if (!row) throw notFound('loop')
  return row.id
}

/** The same where what reads the loop next tells that there is none: an identifier is not looked up before. */
export const identifierOf = async (db: Executor, idOrTag: string): Promise<string> =>
  isIdentifier(idOrTag) ? idOrTag : loopIdOf(db, idOrTag)

export async function loopDetail(db: Executor, id: string): Promise<LoopDetail> {
  const [row] = await db
    .select({ ...listed, document: loopRevisions.document, at: loopRevisions.at })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .where(eq(loops.id, id))
  if (!row) throw notFound('loop')
  const { at, document, ...loop } = row
  const by = (await revisionAuthors(db, id)).get(row.revision) ?? ''
  return { ...told(loop), document: currentLoopDocument(document), revisedAt: isoInstant(at), revisedBy: by }
}

/** Names of who saved each revision; foreign ones are shown as such. */
async function revisionAuthors(db: Executor, loopId: string): Promise<Map<number, string>> {
  const saved = await eventsOfKind(db, loopId, revisionSaved.type)
  const { author, name } = await authorsOf(db, loopId)
  return new Map(saved.map((e) => [revisionSaved.payload.parse(e.payload).number, name(author(e.seq, e.by))]))
}

export async function revisionsOf(db: Executor, loopId: string): Promise<Revision[]> {
  const rows = await db
    .select()
    .from(loopRevisions)
    .where(eq(loopRevisions.loopId, loopId))
    .orderBy(desc(loopRevisions.number))
  const by = await revisionAuthors(db, loopId)
  return rows.map(({ number, document, at, reason }) => ({
    number,
    document: currentLoopDocument(document),
    at: isoInstant(at),
    reason,
    by: by.get(number) ?? '',
  }))
}

/** Computes anew what lists show of a loop. */
export async function refreshSummary(tx: Executor, loopId: string): Promise<void> {
  const [row] = await tx.select({ revision: loops.revision }).from(loops).where(eq(loops.id, loopId))
  if (!row) throw notFound('loop')
  const document = await documentOf(tx, loopId, row.revision)
  const drift = loopDrift(await pastErrorsOf(tx, loopId), document.interval_months)
  const run = await newestVerification(tx, loopId)
  const runDocument = run && (await documentOf(tx, loopId, run.started.revision))
  const shown = shownColumns(
    summarise(
      document,
      run,
      runDocument?.path ?? [],
      await proceduresOf(tx, loopId),
      document.path.length === 0 ? await newestOfInput(tx, loopId) : null,
      adjustedAtOf(await adjustedRunsOf(tx, loopId)),
      runDocument,
    ),
  )
  await tx
    .update(loops)
    .set({ ...shown, drift, archivedAt: await archivedAtOf(tx, loopId) })
    .where(eq(loops.id, loopId))
}

/** Since when a loop is out of use, as its events tell it. */
async function archivedAtOf(tx: Executor, loopId: string): Promise<Date | null> {
  const since = archivedSince(
    [
      ...(await eventsOfKind(tx, loopId, archived.type)),
      ...(await eventsOfKind(tx, loopId, broughtBack.type)),
    ].sort((a, b) => a.seq - b.seq),
  )
  return since === null ? null : new Date(since)
}

const columnsOf = (document: LoopDocument) => ({
  tag: document.tag,
  service: document.service,
  area: document.area,
  assignee: document.assignee ?? '',
  type: document.type,
  intervalMonths: document.interval_months,
})

const revisionOf = (
  number: number,
  document: LoopDocument,
  person: Pick<Person, 'id'>,
  reason: string,
  at: Date,
): Happening => ({
  runId: null,
  type: revisionSaved.type,
  at,
  by: person.id,
  payload: { number, reason, documentHash: sha256(canonicalJson(document)) },
})

async function storeRevision(
  tx: Executor,
  loopId: string,
  number: number,
  document: LoopDocument,
  person: Person,
  reason: string,
  at: Date,
): Promise<void> {
  await tx.insert(loopRevisions).values({ loopId, number, document, by: person.id, at, reason })
  const { head } = await holdLoop(tx, loopId)
  await append(tx, head, [revisionOf(number, document, person, reason, at)], at)
}

const tagInUse = (tag: string) =>
  conflict(`The tag ${tag} is in use. Give this loop another one.`, {
    errors: [{ path: 'document.tag', says: `The tag ${tag} is in use.` }],
  })
/** @throws HttpProblem 409 where another loop in use has the tag */
export async function tagIsFree(tx: Executor, tag: string, loopId: string): Promise<void> {
  const [taken] = await tx.select({ id: loops.id }).from(loops).where(whichLoop(tag))
  if (taken && taken.id !== loopId) throw tagInUse(tag)
}

/** Creates a loop with its first revision; sending the same identifier again changes nothing. */
export async function createLoop(
  tx: Executor,
  id: string,
  document: LoopDocument,
  person: Person,
  reason: string,
  at = new Date(),
): Promise<void> {
  const [here] = await tx
    .select({ tag: loops.tag, revision: loops.revision })
    .from(loops)
    .where(eq(loops.id, id))
  if (here) {
    const first = await documentOf(tx, id, 1)
    if (canonicalJson(first) === canonicalJson(document)) return
    throw conflict(`A loop with this identifier is here already: ${here.tag}.`)
  }
  await createLoops(tx, [{ id, document, reason }], person, at)
  await tellWindows(tx, { loopId: id, tag: document.tag, what: 'list' })
}

/**
 * Creates new loops, each with its first revision, in a few statements: a plant's whole list comes at once.
 * @throws HttpProblem 409 where a tag is in use
 */
export async function createLoops(
  tx: Executor,
  list: readonly { readonly id: string; readonly document: LoopDocument; readonly reason: string }[],
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<void> {
  if (list.length === 0) return
  const tags = list.map((l) => l.document.tag.toUpperCase())
  const [taken] = await tx
    .select({ tag: loops.tag })
    .from(loops)
    .where(and(inArray(sql`upper(${loops.tag})`, tags), isNull(loops.archivedAt)))
    .limit(1)
  if (taken) throw tagInUse(taken.tag)
  const made = list.map(({ id, document, reason }) => {
    const head = { loopId: id, seq: 0, hash: CHAIN_START }
    const chained = chainedAfter(head, [revisionOf(1, document, person, reason, at)], at)
    const shown = shownColumns(summarise(document, null, []))
    const ends = { lastSeq: head.seq, lastHash: head.hash }
    return {
      chained,
      row: { id, ...columnsOf(document), revision: 1, ...shown, ...ends },
      revision: { loopId: id, number: 1, document, by: person.id, at, reason },
    }
  })
  await tx.insert(loops).values(made.map((m) => m.row))
  await tx.insert(loopRevisions).values(made.map((m) => m.revision))
  await storeChained(
    tx,
    made.flatMap((m) => m.chained),
  )
}

/**
 * Saves a new revision on top of `base`. When somebody was faster, nothing is stored and both versions
 * come back in a 409; when the document is the newest one already, nothing happens.
 * @returns whether there is a new revision
 */
export async function saveRevisionIn(
  tx: Executor,
  loopId: string,
  base: number,
  document: LoopDocument,
  person: Person,
  reason: string,
  at = new Date(),
): Promise<boolean> {
  const { row } = await holdLoop(tx, loopId)
  const newest = await documentOf(tx, loopId, row.revision)
  if (canonicalJson(newest) === canonicalJson(document)) return false
  if (row.revision !== base) {
    const theirs = await loopDetail(tx, loopId)
    const body: RevisionConflict = {
      base: { number: base, document: await documentOf(tx, loopId, base) },
      theirs: { number: row.revision, document: newest, by: theirs.revisedBy, at: theirs.revisedAt },
    }
    throw conflict(
      `${theirs.revisedBy} saved revision ${row.revision} of ${row.tag} meanwhile. Yours is not lost: merge the two.`,
      body,
    )
  }
  await tagIsFree(tx, document.tag, loopId)
  await tx
    .update(loops)
    .set({ ...columnsOf(document), revision: base + 1 })
    .where(eq(loops.id, loopId))
  await storeRevision(tx, loopId, base + 1, document, person, reason, at)
  await refreshSummary(tx, loopId)
  await tellWindows(tx, { loopId, tag: document.tag, what: 'revision' })
  return true
}

/** The same in a transaction of its own. */
export const saveRevision = (
  db: Database,
  loopId: string,
  base: number,
  document: LoopDocument,
  person: Person,
  reason: string,
  at = new Date(),
): Promise<boolean> => db.transaction((tx) => saveRevisionIn(tx, loopId, base, document, person, reason, at))
