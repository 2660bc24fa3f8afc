import type { Survey, SurveyedSite } from '@calm/contract/surveys'
import { siteSurveyed } from '@calm/core/record/kinds/site-surveyed'
import type { PayloadOf } from '@calm/core/record/kinds/kind'
import { and, asc, eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { notFound } from '../http/problems.ts'
import { authorsOf } from '../record/authors.ts'
import { events, loops } from '../record/schema.ts'

type Kept = PayloadOf<typeof siteSurveyed>
const surveyId = sql`(${events.payload} #>> '{survey,id}')`

/** Sites by survey, each as it was kept last; the record of its loop is the only place where they stand. */
async function sitesKept(db: Executor, survey?: string): Promise<{ kept: Kept; site: SurveyedSite }[]> {
  const rows = await db
    .select({
      loopId: events.loopId,
      tag: loops.tag,
      service: loops.service,
      demo: loops.demo,
      seq: events.seq,
      by: events.by,
      at: events.at,
      payload: events.payload,
    })
    .from(events)
    .innerJoin(loops, eq(loops.id, events.loopId))
    .where(and(eq(events.type, siteSurveyed.type), survey === undefined ? undefined : eq(surveyId, survey)))
    .orderBy(asc(events.at), asc(events.seq))
  const authors = new Map<string, Awaited<ReturnType<typeof authorsOf>>>()
  const newest = new Map<string, { kept: Kept; site: SurveyedSite }>()
  for (const r of rows) {
    const told = siteSurveyed.payload.safeParse(r.payload)
    // A kind that a newer version wrote stays in the record; here it cannot be read.
    if (!told.success) continue
    const who = authors.get(r.loopId) ?? (await authorsOf(db, r.loopId))
    authors.set(r.loopId, who)
    const { site, keeping, found, log, pictures, state, says, points } = told.data
    const key = `${r.loopId} ${site}`
    const before = newest.get(key)
    if (before && before.site.keeping > keeping) continue
    newest.set(key, {
      kept: told.data,
      site: {
        ...{ site, keeping, found, log, pictures, state, says, points },
        tag: r.tag,
        service: r.service,
        demo: r.demo,
        by: r.by,
        byName: who.name(who.author(r.seq, r.by)),
        at: isoInstant(r.at),
      },
    })
  }
  return [...newest.values()]
}

/** Surveys, the newest day first: each with the words that were kept last. */
export async function surveysKept(db: Executor, survey?: string): Promise<Survey[]> {
  const by = new Map<string, Survey>()
  const last = new Map<string, string>()
  for (const { kept, site } of await sitesKept(db, survey)) {
    const { id, title, on } = kept.survey
    const here = by.get(id)
    const isNewer = site.at >= (last.get(id) ?? '')
    by.set(id, {
      id,
      title: isNewer ? title : (here?.title ?? title),
      on: isNewer ? on : (here?.on ?? on),
      sites: [...(here?.sites ?? []), site],
    })
    if (isNewer) last.set(id, site.at)
  }
  return [...by.values()].sort((a, b) => (a.on < b.on ? 1 : a.on > b.on ? -1 : a.title < b.title ? -1 : 1))
}

/** @throws HttpProblem 404 */
export async function surveyKept(db: Executor, id: string): Promise<Survey> {
  const [one] = await surveysKept(db, id)
  if (!one) throw notFound('survey')
  return one
}
