import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { JobTold } from '@calm/contract/today'
import { factsOf } from '@calm/core/loop/facts'
import { contextOf } from '@calm/core/loop/procedure-context'
import { leavesOn } from '@calm/core/record/loop-drift'
import { procedureOf } from '@calm/core/procedure/catalogue'
import {
  dayAfter,
  jobOfInstrument,
  jobsOfLoop,
  type LoopAtWork,
  type OpenRun,
} from '@calm/core/today/from-loop'
import { VERIFY, VISIT, type Does } from '@calm/core/today/does'
import type { HandJob } from '@calm/core/today/entries'
import { toldApart, type Job, type Work } from '@calm/core/today/job'
import { progressOf, type Proof, type RunRow } from '@calm/core/today/progress'
import { deskWork, procedureWork, verificationWork } from '@calm/core/today/usual-work'
import { wallOf } from '@calm/core/today/wall-time'
import { and, eq, inArray, isNull, notInArray, or, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { allEquipment } from '../equipment/store.ts'
import { people } from '../people/schema.ts'
import { loopRevisions, loops, runs } from '../record/schema.ts'
import { allMarks, handJobs, wishes } from './entries.ts'
import { readBacksWaiting } from './read-backs.ts'
import { runsSince } from './runs-of-loops.ts'
import type { Times } from './usual-times.ts'

/** So many days beyond those that are planned are looked at: a visit that is due soon can come along. */
export const LOOK_AHEAD_DAYS = 14
const ENDED = ['ready', 'signed', 'countersigned', 'done', 'aborted', 'outOfService', 'handedOver']

const procedureSaid = (id: string) => ({ id, minutes: procedureOf(id)?.minutes ?? null })

/** Verifications and procedures that somebody began and nobody ended, the newest of each loop. */
async function openRuns(db: Executor, zone: string): Promise<Map<string, OpenRun>> {
  const rows = await db
    .select({
      loopId: runs.loopId,
      kind: runs.kind,
      procedure: runs.procedure,
      at: runs.startedAt,
      byName: people.shownName,
    })
    .from(runs)
    .innerJoin(people, eq(people.id, runs.startedBy))
    .where(
      and(
        notInArray(runs.state, ENDED),
        // An older one beside a newer of its kind was left behind for good.
        sql`not exists (select 1 from ${runs} n where n.loop_id = ${runs.loopId} and n.kind = ${runs.kind} and n.started_at > ${runs.startedAt})`,
      ),
    )
    .orderBy(runs.startedAt)
  return new Map(
    rows.map((r) => [
      r.loopId,
      {
        procedure: r.kind === 'procedure' ? procedureSaid(r.procedure ?? '') : null,
        title:
          r.kind === 'procedure' ? (procedureOf(r.procedure ?? '')?.title ?? 'A procedure') : 'Verification',
        on: wallOf(r.at.getTime(), zone).day,
        byName: r.byName,
      },
    ]),
  )
}

/** Loops of which the record may ask something up to a day; whether it does, the core judges. */
async function loopsAtWork(db: Executor, horizon: string, zone: string): Promise<LoopAtWork[]> {
  const open = await openRuns(db, zone)
  const unread = await readBacksWaiting(db, zone)
  const stops = sql`(${loops.summary} -> 'parts' ->> 'wire' = 'stop' or ${loops.summary} -> 'parts' ->> 'setUp' = 'stop' or ${loops.summary} -> 'parts' ->> 'scale' = 'stop')`
  const rows = await db
    .select({
      id: loops.id,
      tag: loops.tag,
      service: loops.service,
      area: loops.area,
      due: loops.due,
      lastCalibrated: loops.lastCalibrated,
      summary: loops.summary,
      drift: loops.drift,
      document: loopRevisions.document,
    })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .where(
      and(
        isNull(loops.archivedAt),
        or(
          sql`${loops.due} <= ${horizon}`,
          stops,
          sql`${loops.drift} is not null`,
          sql`jsonb_array_length(coalesce(${loopRevisions.document} -> 'toKeyIn', '[]'::jsonb)) > 0`,
          open.size + unread.size > 0 ? inArray(loops.id, [...open.keys(), ...unread.keys()]) : undefined,
        ),
      ),
    )
    .orderBy(loops.tag)
  return rows.map((r) => {
    const document = currentLoopDocument(r.document)
    return {
      id: r.id,
      tag: r.tag,
      service: r.service,
      area: r.area,
      floor: document.floor ?? 0,
      due: r.due,
      lastCalibrated: r.lastCalibrated,
      dueNow: r.summary.dueNow,
      leavesOn: r.drift ? leavesOn(r.drift) : null,
      parts: r.summary.parts,
      open: open.get(r.id) ?? null,
      toKeyIn: document.toKeyIn.length,
      readBack: unread.get(r.id) ?? null,
      facts: factsOf(document),
      context: open.get(r.id)?.procedure ? contextOf(document) : null,
    }
  })
}

/** The page on which a job is done, at its step where there is one. */
const pageOf = (tag: string, does: Does): string =>
  does === null
    ? `/loops/${tag}`
    : does === VERIFY
      ? `/loops/${tag}/verify`
      : `/loops/${tag}/trim?procedure=${does}`
/** What a job takes that somebody entered: what its verification or procedure asks for, as long as was said. */
function handWork(job: HandJob, does: Does, loop: HandLoop | null): Work {
  const byHand = deskWork(`by hand ${job.title.toLowerCase()}`, job.minutes)
  const p = does === null ? null : procedureOf(does)
  if (!loop || (does !== VERIFY && !p)) return byHand
  const document = currentLoopDocument(loop.document)
  const visit = verificationWork(factsOf(document))
  const work = p ? procedureWork({ id: p.id, minutes: null }, visit, contextOf(document)) : visit
  return { ...work, standard_min: job.minutes }
}

/** Who enters a job names its area; on which floor of it the loop is, the loop knows. */
function floorOf(loop: HandLoop | null, area: string): number {
  const document = loop && currentLoopDocument(loop.document)
  return document?.area === area ? (document.floor ?? 0) : 0
}

interface HandLoop {
  readonly id: string
  readonly tag: string
  readonly service: string
  readonly document: SavedLoopDocument
}
/** Runs are looked at up to here. */
const FOR_EVER = new Date('2200-01-01T00:00:00Z')
/** Jobs that somebody entered and nobody has done or let go. */
export async function openByHand(db: Executor, today: string, zone: string): Promise<Job[]> {
  const all = [...(await handJobs(db)).values()]
  const done = new Map((await allMarks(db)).map((m) => [m.subject, m]))
  const tags = all.flatMap((e) => e.payload.job?.loop?.toUpperCase() ?? [])
  const known = new Map<string, HandLoop>()
  if (tags.length > 0)
    for (const l of await db
      .select({
        id: loops.id,
        tag: loops.tag,
        service: loops.service,
        document: loopRevisions.document,
      })
      .from(loops)
      .innerJoin(
        loopRevisions,
        and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
      )
      .where(and(isNull(loops.archivedAt), sql`upper(${loops.tag}) = any(${sql.param(tags)})`)))
      known.set(l.tag.toUpperCase(), l)
  const proved = all.flatMap(({ at, payload: { job } }) => {
    const id = job?.does ? known.get(job.loop?.toUpperCase() ?? '')?.id : undefined
    return id === undefined ? [] : [{ id, at }]
  })
  const first = proved.map((p) => p.at).sort()[0]
  const runs =
    first === undefined
      ? new Map<string, RunRow[]>()
      : await runsSince(db, [...new Set(proved.map((p) => p.id))], new Date(first), FOR_EVER)
  /** Proved on a day before: it is told no more. */
  const wasProved = (loop: HandLoop | null, proof: Proof): boolean =>
    loop !== null &&
    progressOf(
      (runs.get(loop.id) ?? []).filter((r) => wallOf(Date.parse(r.startedAt), zone).day < today),
      [],
      false,
      proof,
    ).state === 'done'
  return all.flatMap((e): Job[] => {
    const { job } = e.payload
    const mark = done.get(e.subject)
    const isOver = mark?.payload.mark === 'done' && (mark.day ?? '') < today
    const loop = job?.loop ? (known.get(job.loop.toUpperCase()) ?? null) : null
    const does = loop === null ? null : (job?.does ?? null)
    if (!job || isOver || wasProved(loop, { does, since: e.at })) return []
    return [
      {
        key: e.subject,
        title: job.title,
        kind: 'byHand',
        loop: loop && { id: loop.id, tag: loop.tag, service: loop.service },
        area: job.area,
        floor: floorOf(loop, job.area),
        why: job.why === '' ? `Entered by ${e.byName}.` : job.why,
        to: loop ? pageOf(loop.tag, does) : null,
        due: job.due,
        importance: job.importance,
        work: handWork(job, does, loop),
        after: [],
        does,
        since: e.at,
      },
    ]
  })
}

/**
 * Everything that has to be done up to a day, as the record asks for it and as it was entered, with what was agreed.
 * @param today - YYYY-MM-DD, by the plant's clock; horizon - the last day that is looked at
 */
export async function jobsUpTo(
  db: Executor,
  today: string,
  horizon: string,
  { home, zone }: { readonly home: string; readonly zone: string },
  times: Times,
): Promise<JobTold[]> {
  const said = await wishes(db)
  const jobs: Job[] = [
    ...(await loopsAtWork(db, horizon, zone)).flatMap((l) => jobsOfLoop(l, today, horizon)),
    ...(await allEquipment(db)).flatMap((e) =>
      e.retired ? [] : (jobOfInstrument(e, home, today, horizon) ?? []),
    ),
    ...(await openByHand(db, today, zone)),
  ]
  return toldApart(
    jobs,
    (j) => j.title,
    (j, title) => ({ ...j, title }),
  ).map((j) => withTime(j, said.get(j.key)?.payload ?? {}, times))
}

/** A job that stood in a plan and that the record asks for no more: it is told as what it was. */
export async function jobsGone(db: Executor, keys: readonly string[], times: Times): Promise<JobTold[]> {
  const ids = keys.map((k) => k.slice(0, 36))
  if (ids.length === 0) return []
  const rows = await db
    .select({
      id: loops.id,
      tag: loops.tag,
      service: loops.service,
      area: loops.area,
      document: loopRevisions.document,
    })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .where(inArray(loops.id, ids))
  const equipment = await allEquipment(db)
  return keys.flatMap((key) => {
    const [id, what] = [key.slice(0, 36), key.slice(37)]
    const l = rows.find((r) => r.id === id)
    const e = equipment.find((x) => x.id === id)
    const base = {
      key,
      kind: 'verify' as const,
      why: 'The record asks for it no more.',
      due: '2000-01-01',
      importance: 3,
      after: [],
      does: what === 'visit' ? VISIT : null,
      since: null,
    }
    if (l)
      return [
        withTime(
          {
            ...base,
            title: `${l.tag} ${what === 'visit' ? 'verify' : what}`,
            loop: { id: l.id, tag: l.tag, service: l.service },
            area: l.area,
            floor: currentLoopDocument(l.document).floor ?? 0,
            to: `/loops/${l.tag}`,
            work: verificationWork(factsOf(currentLoopDocument(l.document))),
          },
          {},
          times,
        ),
      ]
    return e
      ? [
          withTime(
            {
              ...base,
              kind: 'certificate',
              title: `${e.serial} certificate`,
              loop: null,
              area: '',
              floor: 0,
              to: '/instruments',
              work: deskWork('send to be certified', 15),
            },
            {},
            times,
          ),
        ]
      : []
  })
}

const withTime = (j: Job, wish: JobTold['wish'], times: Times): JobTold => {
  const usual = times(j.work.procedure, j.work.standard_min, null)
  return { ...j, wish, minutes: wish.minutes ?? usual.minutes, learntFrom: usual.runs }
}

/** Day after which nothing is looked at. */
export const horizonOf = (lastDay: string): string => dayAfter(lastDay, LOOK_AHEAD_DAYS)
