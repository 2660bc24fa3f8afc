import { createHash } from 'node:crypto'
import { currentLoopDocument } from '@calm/contract/saved/loop-document'
import type { PastAnswer, PastRequest } from '@calm/contract/past'
import type { Person } from '@calm/contract/people'
import { pastEntered, type PastEntered } from '@calm/core/record/kinds/past-entered'
import { loopDrift } from '@calm/core/record/loop-drift'
import { certificatesOf } from '@calm/core/record/past/certificates'
import { loopScale } from '@calm/core/verify/reading-errors'
import { toleranceAt } from '@calm/core/verify/tolerance'
import { and, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { personOnLoop } from '../loops/areas.ts'
import { append, holdLoop } from '../record/append.ts'
import { checkTime, isReplay } from '../record/append-once.ts'
import { pastErrorsOf } from '../record/runs.ts'
import { events, loopRevisions, loops } from '../record/schema.ts'

type Row = PastRequest['rows'][number]
interface Prepared {
  readonly loopId: string
  readonly tag: string
  readonly interval_months: number | null
  readonly payload: PastEntered
}

/** One event for each loop, the same for the same request: sending again changes nothing. */
function eventIdOf(request: string, loopId: string): string {
  const h = createHash('sha256').update(`${request}/${loopId}`).digest('hex')
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-a${h.slice(17, 20)}-${h.slice(20, 32)}`
}

const byTag = (rows: readonly Row[]): Map<string, Row[]> => {
  const out = new Map<string, Row[]>()
  for (const r of rows) {
    const key = r.tag.toUpperCase()
    const there = out.get(key)
    if (there) there.push(r)
    else out.set(key, [r])
  }
  return out
}

/** What the rows make of certificates, loop by loop, and what holds some of them back. */
async function prepare(
  db: Database,
  body: PastRequest,
  today: string,
): Promise<{ prepared: Prepared[]; wrong: PastAnswer['wrong'] }> {
  const tags = byTag(body.rows)
  const known = await db
    .select({
      id: loops.id,
      tag: loops.tag,
      revision: loops.revision,
      interval: loops.intervalMonths,
      document: loopRevisions.document,
    })
    .from(loops)
    .innerJoin(
      loopRevisions,
      and(eq(loopRevisions.loopId, loops.id), eq(loopRevisions.number, loops.revision)),
    )
    .where(and(isNull(loops.archivedAt), inArray(sql`upper(${loops.tag})`, [...tags.keys()])))
  const wrong: PastAnswer['wrong'] = []
  const prepared: Prepared[] = []
  for (const [key, rows] of tags) {
    const loop = known.find((l) => l.tag.toUpperCase() === key)
    const first = rows[0]
    if (!first) continue
    const document = loop ? currentLoopDocument(loop.document) : null
    const scale = document && loopScale(document.path)
    if (!loop || !document || !scale || !document.tolerance) {
      wrong.push({
        line: first.line,
        says: !loop
          ? `No loop has the tag ${first.tag}.`
          : scale
            ? `${loop.tag} has no tolerance: give it one on the Scale bench first.`
            : `${loop.tag} has no range: it switches.`,
      })
      continue
    }
    const { tolerance } = document
    const made = certificatesOf(rows, scale, tolerance, today)
    wrong.push(...made.wrong)
    if (made.certificates.length === 0) continue
    const span = Math.abs(scale.output.high - scale.output.low)
    const middle = (scale.output.high + scale.output.low) / 2
    const payload = pastEntered.payload.safeParse({
      revision: loop.revision,
      tolerance_pct: (100 * toleranceAt(tolerance, span, middle)) / span,
      source: body.source,
      certificates: made.certificates,
    })
    if (payload.success)
      prepared.push({ loopId: loop.id, tag: loop.tag, interval_months: loop.interval, payload: payload.data })
    else
      wrong.push({
        line: first.line,
        says: `${loop.tag}: ${payload.error.issues[0]?.message ?? 'the certificates cannot be used.'}`,
      })
  }
  return { prepared, wrong }
}

/**
 * Earlier certificates come into the records of their loops, marked as entered later, under the name of who did it.
 * Wrong ones are told and stay outside; the others are not held back by them.
 */
export async function enterPast(
  db: Database,
  body: PastRequest,
  person: Person,
  now: Date,
): Promise<PastAnswer> {
  checkTime(body.at, now, 'at')
  const { prepared, wrong } = await prepare(db, body, now.toISOString().slice(0, 10))
  for (const p of body.keep ? prepared : []) await personOnLoop(db, person, p.loopId)
  if (body.keep)
    for (const p of prepared)
      await db.transaction(async (tx) => {
        const { head } = await holdLoop(tx, p.loopId)
        const event = {
          id: eventIdOf(body.id, p.loopId),
          runId: null,
          type: pastEntered.type,
          payload: p.payload,
        }
        const [here] = await tx.select().from(events).where(eq(events.id, event.id))
        if (here) {
          await isReplay(tx, here, { ...event, at: body.at }, p.loopId, person.id)
          return
        }
        await append(tx, head, [{ ...event, at: new Date(body.at), by: person.id }], now)
        await tx
          .update(loops)
          .set({ drift: loopDrift(await pastErrorsOf(tx, p.loopId), p.interval_months) })
          .where(eq(loops.id, p.loopId))
        await tellWindows(tx, { loopId: p.loopId, tag: p.tag, what: 'events' })
      })
  return {
    loops: prepared.length,
    certificates: prepared.reduce((n, p) => n + p.payload.certificates.length, 0),
    wrong: wrong.sort((a, b) => a.line - b.line),
    kept: body.keep,
  }
}
