import type { KeepSite } from '@calm/contract/surveys'
import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { siteSurveyed } from '@calm/core/record/kinds/site-surveyed'
import { judgeSite } from '@calm/core/survey/judge-site'
import { entriesOfLoop } from '@calm/core/survey/of-loop'
import type { LogOfSite } from '@calm/core/survey/site-shape'
import { and, desc, eq, sql } from 'drizzle-orm'
import type { Connection, Database, Executor } from '../db/connection.ts'
import { conflict, wrongValues } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import { keepPicture, pictureOf } from '../notes/pictures.ts'
import { appendOnce } from '../record/append-once.ts'
import { events } from '../record/schema.ts'
import type { Pool } from '../work/pool.ts'
import { logOfSite } from './log-of-site.ts'

/** The site as its loop's record has it; null where it was never kept. */
async function keptBefore(db: Executor, loopId: string, site: string) {
  const [row] = await db
    .select({ payload: events.payload })
    .from(events)
    .where(
      and(
        eq(events.loopId, loopId),
        eq(events.type, siteSurveyed.type),
        sql`${events.payload} ->> 'site' = ${site}`,
      ),
    )
    .orderBy(desc(events.seq))
    .limit(1)
  return row ? siteSurveyed.payload.parse(row.payload) : null
}

/** Name of another site of the loop that has this log; null where none has. */
async function siteOfLog(db: Executor, loopId: string, log: string, site: string): Promise<string | null> {
  const rows = await db
    .select({ payload: events.payload })
    .from(events)
    .where(
      and(
        eq(events.loopId, loopId),
        eq(events.type, siteSurveyed.type),
        sql`${events.payload} #>> '{log,id}' = ${log}`,
        sql`${events.payload} ->> 'site' <> ${site}`,
      ),
    )
    .limit(1)
  const [row] = rows
  return row ? String(siteSurveyed.payload.parse(row.payload).found.values['site'] ?? '') : null
}

/** Whether this very keeping is in the record already: what the log says of it was worked out then. */
async function isStored(db: Executor, loopId: string, body: KeepSite, person: Person): Promise<boolean> {
  const [row] = await db.select().from(events).where(eq(events.id, body.id))
  const told = row?.type === siteSurveyed.type ? siteSurveyed.payload.safeParse(row.payload).data : undefined
  if (!row || !told || row.loopId !== loopId || row.by !== person.id) return false
  const same = (a: unknown, b: unknown) => canonicalJson(a) === canonicalJson(b)
  return told.site === body.site && same(told.found, body.found) && same(told.survey, body.survey)
}

/**
 * Keeps a site with its verdict in the record of its loop; the same sent again changes nothing.
 * @throws HttpProblem 409 where somebody else kept it meanwhile, 404 for a log that is not the loop's
 */
export async function keepSite(
  connection: Connection,
  pool: Pool,
  loopId: string,
  body: KeepSite,
  person: Person,
  now: Date,
  gone: AbortSignal,
): Promise<boolean> {
  if (await isStored(connection.db, loopId, body, person)) return false
  const log = body.log === null ? null : await logOfSite(connection, pool, loopId, body.log, gone)
  return storeSite(connection.db, loopId, body, log, person, now)
}

/** The same with what its log says at hand. @throws HttpProblem 409 where somebody else kept it meanwhile */
export async function storeSite(
  db: Database,
  loopId: string,
  body: Omit<KeepSite, 'log'>,
  log: LogOfSite | null,
  person: Person,
  now: Date,
): Promise<boolean> {
  const before = await keptBefore(db, loopId, body.site)
  const added = body.pictures.map((p, i) => pictureOf(p, `pictures.${i}`))
  const stay = body.stay.map((sha256, i) => {
    const here = before?.pictures.find((p) => p.sha256 === sha256)
    if (!here)
      throw wrongValues([{ path: `stay.${i}`, says: 'This picture was not kept with this site before.' }])
    return here
  })
  const other = log && (await siteOfLog(db, loopId, log.id, body.site))
  if (other !== null)
    throw wrongValues([
      { path: 'log', says: `This log is of the site ${other} already: one log, one place.` },
    ])
  const { document } = await loopDetail(db, loopId)
  const { state, says, points } = judgeSite(body.found, log, entriesOfLoop(document), body.survey.on)
  const told = siteSurveyed.payload.safeParse({
    survey: body.survey,
    site: body.site,
    keeping: body.after + 1,
    found: body.found,
    log,
    pictures: [...stay, ...added.map((p) => p.told)],
    state,
    says,
    points,
  })
  if (!told.success)
    throw wrongValues(told.error.issues.map((i) => ({ path: i.path.join('.'), says: i.message })))
  for (const p of added) await keepPicture(db, p.told.sha256, p.data)
  return appendOnce(
    db,
    loopId,
    { id: body.id, at: body.at, type: siteSurveyed.type, payload: told.data },
    person,
    now,
    async (tx) => {
      const kept = await keptBefore(tx, loopId, body.site)
      if ((kept?.keeping ?? 0) !== body.after)
        throw conflict(
          'This site was kept by somebody since you looked at it. Yours is not lost: look at theirs first.',
          { keeping: kept?.keeping ?? 0 },
        )
    },
  )
}
