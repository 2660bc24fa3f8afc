import { loops } from '@calm/contract/api/addresses'
import { noteKept } from '@calm/core/record/kinds/note-kept'
import { PICTURED_TYPES } from '@calm/core/record/kinds/pictures'
import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound, wrongValues } from '../http/problems.ts'
import { keptLogOf } from '../logs/store.ts'
import { loopIdOf } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'
import { events, runs } from '../record/schema.ts'
import { keepPicture, pictureBytes, pictureOf, picturesIn } from './pictures.ts'

/** Notes and photographs: an event in the record, and the pictures beside it. */
export const noteHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(loops.keepNote, async ({ params, body, person }) => {
    const loopId = await loopIdOf(db, params.loop)
    const pictures = body.pictures.map((p, i) => pictureOf(p, `pictures.${i}`))
    const told = noteKept.payload.safeParse({
      text: body.text,
      ...(body.run === undefined ? {} : { run: body.run }),
      ...(body.where === undefined || body.where === '' ? {} : { where: body.where }),
      ...(body.mark === undefined ? {} : { mark: body.mark }),
      pictures: pictures.map((p) => p.told),
    })
    if (!told.success)
      throw wrongValues(told.error.issues.map((i) => ({ path: i.path.join('.'), says: i.message })))
    if (body.run !== undefined) {
      const [run] = await db
        .select({ id: runs.id })
        .from(runs)
        .where(and(eq(runs.id, body.run), eq(runs.loopId, loopId)))
      if (!run) throw wrongValues([{ path: 'run', says: 'This work is not on this loop.' }])
    }
    if (body.mark) {
      const { from, to } = await keptLogOf(db, loopId, body.mark.log)
      if (from === null || to === null || body.mark.at < from || body.mark.at > to)
        throw wrongValues([{ path: 'mark.at', says: 'This moment is not in the log.' }])
    }
    // The pictures first: an event never tells of one that is not here. One without its event is nobody's.
    for (const p of pictures) await keepPicture(db, p.told.sha256, p.data)
    const { id, at } = body
    const stored = await appendOnce(
      db,
      loopId,
      { id, at, type: noteKept.type, payload: told.data },
      person,
      clock(),
    )
    return { stored }
  }),
  bind(loops.picture, async ({ params, res }) => {
    const loopId = await loopIdOf(db, params.loop)
    // Only what this loop's record tells of.
    const [told] = await db
      .select({ type: events.type, payload: events.payload })
      .from(events)
      .where(
        and(
          eq(events.loopId, loopId),
          inArray(events.type, [...PICTURED_TYPES]),
          sql`${events.payload} -> 'pictures' @> ${JSON.stringify([{ sha256: params.picture }])}::jsonb`,
        ),
      )
      .limit(1)
    const picture = told && picturesIn([told]).find((p) => p.sha256 === params.picture)
    const data = picture ? await pictureBytes(db, params.picture) : null
    if (!picture || !data) throw notFound('picture')
    res.set('Cache-Control', 'private, max-age=31536000, immutable').type(picture.type).send(data)
  }),
]
