import { createHash } from 'node:crypto'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { JobsImported, JobTold } from '@calm/contract/today'
import type { Person } from '@calm/contract/people'
import { proceduresOf } from '@calm/core/family/procedures'
import { harmlessCell } from '@calm/core/harmless-cell'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { jobAgreed, jobEntered, jobLetGo } from '@calm/core/record/plant-log/kinds/days'
import type { HandJob, Wish } from '@calm/core/today/entries'
import { VERIFY } from '@calm/core/today/does'
import { KIND_WORDS } from '@calm/core/today/job'
import { readJobs, sayDoes } from '@calm/core/today/jobs-list'
import { and, eq, isNull, sql } from 'drizzle-orm'
import Papa from 'papaparse'
import type { Database, Executor } from '../db/connection.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import { loopRevisions, loops } from '../record/schema.ts'
import { handJobs, keepEntry, wishes } from './entries.ts'
import { openByHand } from './jobs.ts'

/** Key of a job that somebody entered. */
export const keyOfHand = (id: string) => `${id} hand`

const proceduresFor = (document: SavedLoopDocument) => proceduresOf(currentLoopDocument(document).family)

/** @throws HttpProblem 422 for a loop that is not there, and for what cannot be done at it */
async function knownLoop(db: Executor, { loop: tag, does = null }: HandJob): Promise<void> {
  if (tag === null) {
    if (does !== null)
      throw wrongValues([
        { path: 'loop', says: 'Choose the loop at which it is done, or leave open what proves it.' },
      ])
    return
  }
  const { rows } = await db.execute<{ document: SavedLoopDocument }>(
    sql`select r.document from loops l
      join loop_revisions r on r.loop_id = l.id and r.number = l.revision
      where l.archived_at is null and upper(l.tag) = ${tag.toUpperCase()}`,
  )
  const [found] = rows
  if (!found) throw wrongValues([{ path: 'loop', says: `There is no loop ${tag}.` }])
  if (does !== null && does !== VERIFY && !proceduresFor(found.document).some((p) => p.id === does))
    throw wrongValues([{ path: 'does', says: `This procedure is not for ${tag}. Choose one of its own.` }])
}

export async function addJob(
  db: Database,
  id: string,
  job: HandJob,
  person: Person,
  now: Date,
): Promise<boolean> {
  await knownLoop(db, job)
  return db.transaction((tx) =>
    keepEntry(
      tx,
      {
        id,
        kind: 'job',
        day: null,
        subject: keyOfHand(id),
        payload: { job, reason: '' },
        noted: { kind: jobEntered, payload: { title: job.title } },
      },
      person,
      now,
    ),
  )
}

export async function agreeJob(
  db: Database,
  id: string,
  job: Pick<JobTold, 'key' | 'title'>,
  wish: Wish,
  person: Person,
  now: Date,
): Promise<boolean> {
  const noted = { kind: jobAgreed, payload: { title: job.title, agreed: wish.agreed ?? '' } }
  return db.transaction((tx) =>
    keepEntry(tx, { id, kind: 'wish', day: null, subject: job.key, payload: wish, noted }, person, now),
  )
}

/** Only what somebody entered is let go: what the record asks for it asks for until it is done. */
export async function letGoJob(
  db: Database,
  id: string,
  key: string,
  reason: string,
  person: Person,
  now: Date,
): Promise<boolean> {
  const job = (await handJobs(db)).get(key)?.payload.job
  if (!key.endsWith(' hand'))
    throw conflict('The record asks for this job. It goes when it is done, or put it off to another day.')
  if (!job) throw notFound('job')
  return db.transaction((tx) =>
    keepEntry(
      tx,
      {
        id,
        kind: 'job',
        day: null,
        subject: key,
        payload: { job: null, reason },
        noted: { kind: jobLetGo, payload: { title: job.title }, reason },
      },
      person,
      now,
    ),
  )
}

/**
 * A job of a list is known by what its row says: the same row is the same job, in whichever file and whenever it comes.
 * @param nth - rows of one list that say the same are so many jobs; one that is over and stands in a list again is a new one
 */
function idFor(row: unknown, nth: number): string {
  const h = createHash('sha256')
    .update(canonicalJson([row, nth]))
    .digest('hex')
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-8${h.slice(17, 20)}-${h.slice(20, 32)}`
}

/** Whatever stands in a list may be a tag: only loops that it names are looked up. */
const tagsIn = (rows: readonly (readonly string[])[]): string[] => [
  ...new Set(rows.flatMap((cells) => cells.map((c) => c.trim().toUpperCase())).filter((c) => c !== '')),
]
/** Jobs out of a list; one that is here already, by its order or by all that its row says, is not entered twice. */
export async function importJobs(
  db: Database,
  text: string,
  person: Person,
  { today, zone }: { readonly today: string; readonly zone: string },
  now: Date,
): Promise<JobsImported> {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' })
  if (parsed.data.length < 2)
    throw wrongValues([{ path: 'text', says: 'No row of jobs is in it. Name the columns in the first row.' }])
  const known = await db
    .select({ tag: loops.tag, area: loops.area, document: loopRevisions.document })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .where(and(isNull(loops.archivedAt), sql`upper(${loops.tag}) = any(${sql.param(tagsIn(parsed.data))})`))
  const { jobs, wrong } = readJobs(
    parsed.data,
    new Map(
      known.map((l) => [
        l.tag.toUpperCase(),
        { area: l.area, family: currentLoopDocument(l.document).family },
      ]),
    ),
    today,
  )
  return db.transaction(async (tx) => {
    const entered = await handJobs(tx)
    const open = new Set((await openByHand(tx, today, zone)).map((j) => j.key))
    const orders = new Set(
      [...(await wishes(tx))].flatMap(([key, w]) =>
        entered.get(key)?.payload.job && w.payload.order ? [w.payload.order] : [],
      ),
    )
    /** Let go; or done, where its row says no day: such a row asks for it once more. */
    const isOver = (id: string, dated: boolean) => {
      const here = entered.get(keyOfHand(id))
      return here !== undefined && (here.payload.job === null || (!dated && !open.has(keyOfHand(id))))
    }
    const taken = new Set<string>()
    let created = 0
    for (const { order, job, dated } of jobs) {
      if (order !== '' && orders.has(order)) continue
      const said = { order, ...job, due: dated ? job.due : null }
      let nth = 0
      while (taken.has(idFor(said, nth)) || isOver(idFor(said, nth), dated)) nth++
      const entry = idFor(said, nth)
      taken.add(entry)
      const subject = keyOfHand(entry)
      // Whoever entered it, it is here.
      if (entered.has(subject)) continue
      const noted = { kind: jobEntered, payload: { title: job.title } }
      const isNew = await keepEntry(
        tx,
        { id: entry, kind: 'job', day: null, subject, payload: { job, reason: '' }, noted },
        person,
        now,
      )
      if (isNew && order !== '') {
        const wish = { id: idFor({ orderOf: entry }, 0), kind: 'wish' as const, day: null, subject }
        const told = { kind: jobAgreed, payload: { title: job.title, agreed: order } }
        await keepEntry(tx, { ...wish, payload: { order }, noted: told }, person, now)
        orders.add(order)
      }
      if (isNew) created++
    }
    return { created, same: jobs.length - created, wrong: wrong.map((w) => ({ ...w })) }
  })
}

/** Jobs as a list: what goes in comes out. */
export function jobsCsv(jobs: readonly JobTold[]): string {
  const rows = jobs.map((j) => [
    j.wish.order ?? '',
    j.title,
    j.loop?.tag ?? '',
    j.area,
    j.due,
    String(j.minutes),
    String(j.wish.importance ?? j.importance),
    sayDoes(j.does),
    j.why,
    KIND_WORDS[j.kind],
    j.wish.agreed ?? '',
  ])
  const head = [
    'Order',
    'Title',
    'Loop',
    'Area',
    'Due',
    'Minutes',
    'Importance',
    'Done by',
    'Why',
    'Kind',
    'Agreed',
  ]
  return `\ufeff${Papa.unparse([head, ...rows.map((r) => r.map(harmlessCell))], { newline: '\r\n' })}\r\n`
}
